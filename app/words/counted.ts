/** A number of things in words: `1 part`, `3 parts`. @param noun in the singular, with a plural in s */
export const counted = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`
