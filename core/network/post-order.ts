/**
 * Visits a node after all that come before it, without recursion: chains may be long. What is in a loop is visited
 * once, before one of those that it waits for.
 * @param before nodes that are visited before one
 * @param done whether one needs no visit any more
 */
export function inPostOrder(
  start: string,
  before: (at: string) => readonly string[],
  done: (at: string) => boolean,
  visit: (at: string) => void,
): void {
  const open = [start]
  const begun = new Set<string>()
  while (open.length > 0) {
    const at = open.at(-1)!
    const first = done(at) || begun.has(at) ? [] : before(at).filter(n => !done(n) && !begun.has(n))
    begun.add(at)
    if (first.length > 0) {
      open.push(...first)
      continue
    }
    open.pop()
    if (!done(at)) visit(at)
  }
}
