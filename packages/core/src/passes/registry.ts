import type { Pass } from './pass';
import { smooth } from './smooth';

/** Every pass there is. Documents name a pass by its `name`. */
export const PASSES: readonly Pass<unknown>[] = [smooth] as unknown as readonly Pass<unknown>[];

/** @throws Error when there is no pass of this name. */
export function passNamed(name: string): Pass<unknown> {
  const pass = PASSES.find((item) => item.name === name);
  if (!pass) throw new Error(`There is no pass called "${name}".`);
  return pass;
}
