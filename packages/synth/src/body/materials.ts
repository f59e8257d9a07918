import type { Performer } from '../choreography/script';

/** What a surface is made of; the number is stored with each vertex. */
export const MATERIALS = [
  'skin',
  'shirt',
  'trousers',
  'shoes',
  'hair',
  'cap',
  'belt',
  'sole',
  'stick',
  'flagRed',
  'flagWhite',
  'collar',
] as const;
export type Material = (typeof MATERIALS)[number];
export const material = (name: Material): number => MATERIALS.indexOf(name);

/** Linear-light colour of each material for a look: materials × 3. */
export function palette(look: Performer['look']): Float32Array {
  const shade = (hex: string, factor: number): number[] => linear(hex).map((c) => c * factor);
  const colours: Record<Material, number[]> = {
    skin: linear(look.skin),
    shirt: linear(look.shirt),
    trousers: linear(look.trousers),
    shoes: linear(look.shoes),
    hair: linear(look.hair),
    cap: linear(look.cap ?? look.hair),
    belt: shade(look.shoes, 0.7),
    sole: linear('#1d1a18'),
    stick: linear('#a77b4f'),
    flagRed: linear('#c23a2b'),
    flagWhite: linear('#efe6d2'),
    collar: shade(look.shirt, 0.55),
  };
  return Float32Array.from(MATERIALS.flatMap((name) => colours[name]));
}

/** An sRGB colour in linear light (IEC 61966-2-1). */
export function linear(hex: string): [number, number, number] {
  const channel = (i: number): number => {
    const c = parseInt(hex.slice(1 + 2 * i, 3 + 2 * i), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return [channel(0), channel(1), channel(2)];
}
