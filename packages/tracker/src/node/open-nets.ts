import { BODY_NETS, type Net, type NetName, type Nets } from '../runtime/net';

/** `wasm` in this variable leaves the native runtime aside. */
const CHOICE = 'MERRY_SHADOW_RUNTIME';
type Opener = (name: NetName, cache: string) => Promise<Net>;
let opener: Promise<Opener> | null = null;

/** The native ONNX Runtime; the wasm runtime where its binary is missing for this kind of machine. */
function chooseOpener(): Promise<Opener> {
  opener ??= (async () => {
    if (process.env[CHOICE] !== 'wasm') {
      try {
        return (await import('./native-nets')).openNativeNet;
      } catch (error) {
        process.stderr.write(
          `The native runtime can't be loaded (${(error as Error).message.split('\n')[0]}); the slower wasm runtime is used.\n`,
        );
      }
    }
    const { openNodeWasmNet } = await import('./wasm-nets');
    return (name) => openNodeWasmNet(name);
  })();
  return opener;
}

/** Opens one network. @param cache folder for converted networks. */
export async function openNet(name: NetName, cache: string): Promise<Net> {
  return (await chooseOpener())(name, cache);
}

/** Opens the networks that are asked for. */
export async function openNets(cache: string, names: readonly NetName[] = BODY_NETS): Promise<Nets> {
  const nets = await Promise.all(names.map(async (name) => [name, await openNet(name, cache)] as const));
  return Object.fromEntries(nets) as unknown as Nets;
}

export async function closeNets(nets: Nets): Promise<void> {
  await Promise.all(Object.values(nets).map((net) => net.close()));
}
