import { isBackdrop } from './backdrops'
import { findElement, nameOf, type Element } from './document'
import { setAttribute } from './edit'

/** Longest name that is kept, and longest note. */
const LONGEST = 80
const LONGEST_NOTE = 2000

/** What a node, a group, a note or a frame is called on the screen: as somebody said, else its name in the document. */
export function titleOf(document: Element, path: string): string {
  const e = findElement(document, path)
  if (e && isBackdrop(e)) return e.attributes.doc ?? ''
  return e?.attributes.wl_title ?? (e ? nameOf(e) : path).replace(/_/g, ' ')
}

/** Calls a node or a group something; nothing gives back its name in the document, which wires go by. */
export function entitle(document: Element, path: string, title: string): Element {
  const e = findElement(document, path)
  return e && isBackdrop(e)
    ? setAttribute(document, path, 'doc', title.trim().slice(0, LONGEST_NOTE))
    : setAttribute(document, path, 'wl_title', title.trim().slice(0, LONGEST) || undefined)
}
