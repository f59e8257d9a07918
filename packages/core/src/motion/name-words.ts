/** A name in camel case as words: "left upper arm" of `leftUpperArm`. */
export const nameWords = (name: string): string => name.replace(/([A-Z])/g, ' $1').toLowerCase();
