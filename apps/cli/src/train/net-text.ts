import type { SmallNet } from '@merry-shadow/core/learned/small-net';

/** The source text of a learned network. @param name of the constant. @param what what it is, a sentence. */
export function netText(net: SmallNet, name: string, what: string, command: string): string {
  const rounded = (values: readonly number[]): string =>
    values.map((value) => String(Number(value.toPrecision(4)))).join(', ');
  const fields = Object.entries(net).map(([field, values]) => `  ${field}: [${rounded(values as readonly number[])}],`);
  return `import type { SmallNet } from '../learned/small-net';

/** ${what} Written by \`${command}\`. */
// prettier-ignore
export const ${name}: SmallNet = {
${fields.join('\n')}
};
`;
}
