/** Between two values of a drag, ms: the picture cannot follow faster, and every value costs the page a rendering of its panes. */
const PACE = 45

/** Makes a function that is called at most so often; the last call of a quick row is always made. */
export function paced<A extends unknown[]>(run: (...args: A) => void): (...args: A) => void {
  let sent = 0, trailing: ReturnType<typeof setTimeout> | undefined
  const now = (...args: A) => { sent = performance.now(); run(...args) }
  return (...args) => {
    const wait = sent + PACE - performance.now()
    clearTimeout(trailing)
    if (wait > 0) trailing = setTimeout(now, wait, ...args)
    else now(...args)
  }
}
