/**
 * A table that is looked up by text from outside: it has no prototype, so that words like `constructor` find
 * nothing in it.
 */
export const table = <T>(entries: Readonly<Record<string, T>>): Readonly<Record<string, T>> =>
  Object.freeze(Object.assign(Object.create(null) as Record<string, T>, entries))
