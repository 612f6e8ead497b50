import { addNote, frameNodes } from '../../core/network/annotate'
import type { Element } from '../../core/network/document'
import { withPlaces } from './with-places'

/**
 * Notes and titled frames on the network: each is named as soon as it stands.
 * @param picked names of the picked nodes
 * @param middle of what is seen, cells
 */
export function useNotes(picked: () => string[], middle: () => { x: number; y: number }) {
  const bench = useBench()
  function add(label: string, make: (d: Element) => { document: Element; path: string }): void {
    let path = ''
    const done = bench.edit(label, d => {
      const r = make(d)
      path = r.path
      return r.document
    })
    if (!done) return
    bench.node = path
    bench.renaming = { kind: 'node', of: path }
  }
  const note = () => add('Add a note', d => addNote(d, middle().x, middle().y))
  const framePicked = () => {
    const names = picked()
    add('Frame nodes', d => frameNodes(withPlaces(d), names))
  }
  return { note, framePicked }
}
