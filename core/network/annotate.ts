import { forget } from './backdrops'
import { childNamed, isNode, type Element } from './document'
import { addFresh, EditError } from './edit'
import { isGroup } from './groups'

/** Adds a note. @param x, y its place, cells @returns the new document and the note's path */
export const addNote = (document: Element, x: number, y: number): { document: Element; path: string } =>
  addFresh(document, '', 'note', 'backdrop', { doc: 'Note', xpos: String(x), ypos: String(y) })

/**
 * Puts a frame about nodes and groups; those that another frame was about leave it.
 * @throws EditError where none of the names is that of a node or a group outside of groups
 */
export function frameNodes(document: Element, names: readonly string[]): { document: Element; path: string } {
  const about = names.filter(n => {
    const e = childNamed(document, n)
    return e && (isNode(e) || isGroup(e))
  })
  if (!about.length) throw new EditError('pick the nodes that the frame shall be about, outside of groups')
  const least = (key: 'xpos' | 'ypos') =>
    String(Math.min(...about.map(n => Number(childNamed(document, n)!.attributes[key] ?? 0))))
  return addFresh(forget(document, new Set(about)), '', 'frame', 'backdrop', {
    doc: 'Frame',
    contains: about.join(', '),
    xpos: least('xpos'),
    ypos: least('ypos'),
  })
}
