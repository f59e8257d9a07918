/** One line of a Markdown table. */
export const tableLine = (cells: readonly string[]): string => `| ${cells.join(' | ')} |\n`;
