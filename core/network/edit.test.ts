import { describe, expect, it } from 'vitest'
import { mtlx, pbr } from '../testing/setup'
import { compileNetwork } from './compile'
import { childNamed, inputOf, nameOf } from './document'
import { addNode, clearInput, connect, EditError, freeName, removeNode, setValue } from './edit'
import {
  insertCoat,
  insertCut,
  insertDeposit,
  layersOf,
  removeLayer,
  setLayerOff,
  setMatter,
  setThickness,
} from './layers'
import { starters } from './starters'

const base = mtlx(
  `<position name="p" type="vector3"/><noise3d name="noise" type="float"/><add name="sum" type="float"/>
    <open_pbr_surface name="s" type="surfaceshader"/><constant name="c" type="color3"/>`,
)

describe('wires', () => {
  it('go in where the types agree, and leave the old document as it was', () => {
    const d = connect(base, 'noise', 'sum', 'in1')
    expect(inputOf(childNamed(d, 'sum')!, 'in1')!.attributes).toMatchObject({ nodename: 'noise', type: 'float' })
    expect(inputOf(childNamed(base, 'sum')!, 'in1')).toBeUndefined()
  })
  it('put a visible convert or extract between where they do not', () => {
    const up = connect(base, 'noise', 's', 'base_color')
    const down = connect(base, 'c', 'sum', 'in1')
    expect(up.children.some(e => e.tag === 'convert' && e.attributes.type === 'color3')).toBe(true)
    expect(down.children.some(e => e.tag === 'extract')).toBe(true)
    expect(compileNetwork(up, 's').faults.filter(f => f.severity === 'error')).toEqual([])
  })
  it('refuse a loop with both names', () => {
    const d = connect(connect(base, 'noise', 'sum', 'in1'), 'p', 'noise', 'position')
    expect(() => connect(d, 'sum', 'sum', 'in2')).toThrow(EditError)
    const longer = addNode(d, '', 'multiply', 'float', 0, 0)
    const back = connect(longer.document, 'sum', longer.path, 'in1')
    expect(() => connect(back, longer.path, 'sum', 'in2')).toThrow(/loop/)
    expect(() => connect(base, 's', 'sum', 'in1')).toThrow(/surfaceshader/)
    expect(() => connect(base, 'noise', 'sum', 'nothing')).toThrow(/no input/)
  })
  it('go when a value is set or the input cleared', () => {
    const d = connect(base, 'noise', 'sum', 'in1')
    expect(
      inputOf(childNamed(setValue(d, 'sum', 'in1', 'float', '2'), 'sum')!, 'in1')!.attributes.nodename,
    ).toBeUndefined()
    expect(inputOf(childNamed(clearInput(d, 'sum', 'in1'), 'sum')!, 'in1')).toBeUndefined()
    expect(inputOf(childNamed(removeNode(d, 'noise'), 'sum')!, 'in1')).toBeUndefined()
  })
  it('names of new nodes are made of letters, digits and underscores', () =>
    expect(freeName(base, '1 <b>noise</b>')).toBe('_1__b_noise__b_'))
})
// a wire into a node that feeds the source is a loop even when the pair is new
it('the pair noise → sum → noise is refused', () =>
  expect(() => connect(connect(base, 'noise', 'sum', 'in1'), 'sum', 'noise', 'amplitude')).toThrow(/loop/))

describe('layers', () => {
  const paint = starters.find(s => s.key === 'layered_paint')!.make()
  const kinds = (d: typeof paint) => layersOf(d).map(l => l.kind)
  it('read from the spine, stock first', () => {
    expect(kinds(paint)).toEqual(['stock', 'deposit', 'deposit', 'cut', 'coat'])
    expect(layersOf(paint).find(l => l.kind === 'cut')!.bare).toBe('stock')
  })
  it('every starter compiles without a fault', () => {
    for (const s of starters) {
      const d = s.make()
      expect(compileNetwork(d, nameOf(d.children.find(c => c.tag === 'surfacematerial')!)).faults, s.key).toEqual(
        [],
      )
    }
  })
  it('a deposit on top of a cut covers it too; one below it is cut through', () => {
    const top = layersOf(paint).at(-1)!.node
    const over = insertDeposit(paint, top)
    expect(kinds(over.document).at(-1)).toBe('deposit')
    const low = insertDeposit(paint, 'stock', 'Zinc')
    expect(kinds(low.document)).toEqual(['stock', 'deposit', 'deposit', 'deposit', 'cut', 'coat'])
    // the cut still lays the stock bare, not the new deposit
    expect(layersOf(low.document).find(l => l.kind === 'cut')!.bare).toBe('stock')
  })
  it('insert and take out leave the others as they were', () => {
    const coat = insertCoat(paint, layersOf(paint)[2]!.node)
    expect(kinds(removeLayer(coat.document, coat.name))).toEqual(kinds(paint))
    expect(() => removeLayer(paint, 'stock')).toThrow(/stock/)
    expect(() => insertCut(paint, 'stock', 'stock')).toThrow(EditError)
  })
  it('switched off, a layer passes what lies below', () => {
    const top = layersOf(paint).at(-1)!
    const off = compileNetwork(setLayerOff(paint, top.node, true), 'layered_paint').source
    expect(off).not.toContain('pushCoatOver')
    expect(compileNetwork(paint, 'layered_paint').source).toContain('pushCoatOver')
  })
  it('a coat’s tint goes with the power of its thickness', () => {
    const l = layersOf(paint).at(-1)!
    const d = setThickness(paint, l, 8e-5)
    expect(childNamed(d, l.node)!.attributes.wl_thickness).toBe('0.00008')
    expect(
      d.children.find(e => e.tag === 'power')!.children.find(i => nameOf(i) === 'in2')!.attributes.value,
    ).toBe('2')
    expect(() => setThickness(paint, l, -1)).toThrow(EditError)
  })
  it('paint becomes bare metal and keeps its place, name and thickness', () => {
    const l = layersOf(paint)[2]!
    const d = setMatter(paint, l.surface, 'metal', 'copper')
    const e = childNamed(d, l.surface)!
    expect(e.tag).toBe('wl_metal')
    expect(e.attributes.wl_thickness).toBe(childNamed(paint, l.surface)!.attributes.wl_thickness)
    expect(kinds(d)).toEqual(kinds(paint))
    expect(compileNetwork(d, 'layered_paint').faults).toEqual([])
  })
  it('nested layered materials are layers of another', () => {
    const d = mtlx(`${pbr({}, 'a')}${pbr({}, 'b')}<mix name="inner" type="surfaceshader">
        <input name="fg" type="surfaceshader" nodename="a"/>
        <input name="bg" type="surfaceshader" nodename="b"/></mix>${pbr({}, 'z')}
      <mix name="outer" type="surfaceshader"><input name="fg" type="surfaceshader" nodename="inner"/>
      <input name="bg" type="surfaceshader" nodename="z"/><input name="mix" type="float" value="0.5"/></mix>
      <surfacematerial name="m" type="material">
      <input name="surfaceshader" type="surfaceshader" nodename="outer"/></surfacematerial>`)
    expect(kinds(d)).toEqual(['stock', 'deposit'])
    expect(compileNetwork(d, 'm').faults).toEqual([])
  })
})
