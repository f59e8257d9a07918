/** The value of a design token (`tokens.css`) in the current lighting. */
export const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
