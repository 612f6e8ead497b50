import equal from 'fast-deep-equal/es6'

/**
 * A computed value that keeps its old object while the new one says the same: what is drawn from it is drawn again
 * only when something changed. Documents change with every move of a drag, and most of what is read from them does
 * not.
 */
export function steady<T>(make: () => T): ComputedRef<T> {
  return computed<T>(old => {
    const next = make()
    return old !== undefined && equal(old, next) ? old : next
  })
}
