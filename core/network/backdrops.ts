/**
 * Notes and titled frames: backdrops of the standard (MaterialX 1.39, "Backdrop elements"). One that contains nodes is
 * a frame about them, one that contains none a note; the text of either is the standard's `doc`. They stand beside the
 * nodes and groups of a document, and no value depends on them.
 */
import { childNamed, type Element } from './document'

export const isBackdrop = (e: Element): boolean => e.tag === 'backdrop'

/** Names of the nodes and groups that a backdrop is about; of none for a note. */
export const containedIn = (backdrop: Element): string[] =>
  (backdrop.attributes.contains ?? '')
    .split(',')
    .map(n => n.trim())
    .filter(Boolean)

/** Takes names out of all frames, or puts others in their place; a frame that has nothing left goes. */
export function forget(document: Element, names: ReadonlySet<string>, instead: readonly string[] = []): Element {
  const about = (e: Element) => isBackdrop(e) && containedIn(e).some(n => names.has(n))
  if (!document.children.some(about)) return document
  return {
    ...document,
    children: document.children.flatMap(e => {
      if (!about(e)) return [e]
      const kept = [...containedIn(e).filter(n => !names.has(n)), ...instead]
      return kept.length ? [{ ...e, attributes: { ...e.attributes, contains: kept.join(', ') } }] : []
    }),
  }
}

/** Names, and those of what the frames among them are about. */
export const withContained = (document: Element, names: readonly string[]): string[] => [
  ...new Set(
    names.flatMap(n => {
      const e = childNamed(document, n)
      return e && isBackdrop(e) ? [n, ...containedIn(e)] : [n]
    }),
  ),
]
