import { shallowRef } from 'vue'

/** Longest that a value of a drag waits for the picture of the one before, ms. */
const PATIENCE = 45

/** Calls that wait for the picture. */
const waiting = new Set<() => void>()
let stands = true
/** How many values wait. */
export const valuesWaiting = shallowRef(0)
const count = () => {
  valuesWaiting.value = waiting.size
}

/** Says that the picture of the last value stands: what waits for it comes now. */
export function pictureStands(): void {
  stands = true
  for (const call of [...waiting]) call()
}

/**
 * Makes a function that is called no faster than the picture follows: every value costs the page a rendering of
 * its panes, and those that no picture is made of help nobody. The last call of a quick row is always made.
 * Measured with a hand of 60 moves a second: a value every 36 ms 22–25 pictures a second, every 28 ms fewer, when
 * the picture stands 30.
 */
export function paced<A extends unknown[]>(run: (...args: A) => void): (...args: A) => void {
  let sent = -Infinity
  let late: ReturnType<typeof setTimeout> | undefined
  let last: A
  const now = () => {
    clearTimeout(late)
    waiting.delete(now)
    count()
    sent = performance.now()
    stands = false
    run(...last)
  }
  return (...args) => {
    last = args
    clearTimeout(late)
    const wait = stands ? 0 : sent + PATIENCE - performance.now()
    if (wait <= 0) {
      now()
      return
    }
    waiting.add(now)
    count()
    late = setTimeout(now, wait)
  }
}
