import { describe, expect, it } from 'vitest'
import { copyNodes, pasteNodes } from '../formats/mtlx/pieces'
import { readMtlx, writeMtlx } from '../formats/mtlx/mtlx'
import { mtlx } from '../testing/setup'
import { addNote, frameNodes } from './annotate'
import { containedIn } from './backdrops'
import { childNamed, type Element } from './document'
import { removeNodes } from './edit'
import { groupNodes, ungroup } from './groups'
import { entitle, titleOf } from './names'

const NETWORK = mtlx(`<noise3d name="a" type="float" xpos="2" ypos="5"/>
  <noise3d name="b" type="float" xpos="3" ypos="1"/>
  <add name="c" type="float"><input name="in1" type="float" nodename="a"/></add>`)
const about = (d: Element, frame: string) => {
  const e = childNamed(d, frame)
  return e && containedIn(e)
}

describe('notes and titled frames', () => {
  it('are backdrops of the standard, with what they contain and what they say', () => {
    const framed = frameNodes(NETWORK, ['a', 'b'])
    const said = entitle(framed.document, framed.path, 'Rust & soot\n"second" line')
    const back = readMtlx(writeMtlx(said))
    expect(childNamed(back, framed.path)!.tag).toBe('backdrop')
    // MaterialX 1.39, "Backdrop elements": `contains` is a list of names; `doc` may stand on any element
    expect(childNamed(back, framed.path)!.attributes).toMatchObject({ contains: 'a, b', xpos: '2', ypos: '1' })
    expect(titleOf(back, framed.path)).toBe('Rust & soot\n"second" line')
    const note = addNote(NETWORK, 1.5, -2)
    expect(childNamed(note.document, note.path)!.attributes).toMatchObject({ xpos: '1.5', ypos: '-2' })
    expect(about(note.document, note.path)).toEqual([])
  })
  it('hold a node once, and forget what goes', () => {
    const first = frameNodes(NETWORK, ['a', 'b'])
    const second = frameNodes(first.document, ['b', 'c'])
    expect(about(second.document, first.path)).toEqual(['a'])
    expect(about(second.document, second.path)).toEqual(['b', 'c'])
    const less = removeNodes(second.document, ['b', 'a'])
    expect(about(less, second.path)).toEqual(['c'])
    // about nothing any more: gone with its last node
    expect(childNamed(less, first.path)).toBeUndefined()
    // a frame that is removed leaves what it was about
    expect(childNamed(removeNodes(first.document, [first.path]), 'a')).toBeDefined()
  })
  it('follow nodes into groups and out of them', () => {
    const framed = frameNodes(NETWORK, ['a', 'c'])
    const grouped = groupNodes(framed.document, ['a', 'b'])
    expect(about(grouped.document, framed.path)).toEqual(['c', grouped.name])
    const apart = ungroup(grouped.document, grouped.name)
    expect(about(apart.document, framed.path)).toEqual(['c', 'a', 'b'])
  })
  it('are copied with what they are about', () => {
    const framed = frameNodes(NETWORK, ['a', 'c'])
    const r = pasteNodes(framed.document, copyNodes(framed.document, [framed.path]), 1, 1)
    expect(r.names).toHaveLength(3)
    expect(about(r.document, 'frame2')).toEqual(['a2', 'c2'])
    expect(about(r.document, framed.path)).toEqual(['a', 'c'])
    // one node of it alone takes no frame along
    expect(pasteNodes(NETWORK, copyNodes(framed.document, ['a']), 1, 1).names).toEqual(['a2'])
  })
  it('are refused about nothing', () => {
    expect(() => frameNodes(NETWORK, ['nothing'])).toThrow('pick the nodes')
  })
})
