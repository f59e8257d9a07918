/** Reads an option that is a number within limits. @throws Error naming the option. */
export function numberBetween(what: string, low: number, high: number) {
  return (text: string): number => {
    const value = Number(text);
    if (!(value >= low && value <= high))
      throw new Error(`${what} must be a number between ${low} and ${high}, not "${text}".`);
    return value;
  };
}
