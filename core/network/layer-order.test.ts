import { describe, expect, it } from 'vitest'
import { compileNetwork } from './compile'
import { nameOf } from './document'
import { duplicateLayer, layerAlone, moveLayer } from './layer-order'
import { layersOf } from './layers'
import { starters } from './starters'

const paint = starters.find(s => s.key === 'layered_paint')!.make()
const titles = (d: typeof paint) => layersOf(d).map(l => l.title)
const faults = (d: typeof paint) =>
  compileNetwork(d, nameOf(d.children.find(c => c.tag === 'surfacematerial')!)).faults
const node = (d: typeof paint, title: string) => layersOf(d).find(l => l.title === title)!.node

describe('order of layers', () => {
  it('starts as stock, primer, paint, wear, coat', () =>
    expect(titles(paint)).toEqual(['Steel, raw stock', 'Primer', 'Paint', 'Edge wear', 'Clear coat']))
  it('moves a coat under a cut, so that the cut goes through it', () => {
    const d = moveLayer(paint, undefined, node(paint, 'Clear coat'), node(paint, 'Paint'))
    expect(titles(d)).toEqual(['Steel, raw stock', 'Primer', 'Paint', 'Clear coat', 'Edge wear'])
    expect(layersOf(d).at(-1)!.bare).toBe('stock')
    expect(faults(d)).toEqual([])
  })
  it('swaps two deposits both ways to the same order, and back again', () => {
    const up = moveLayer(paint, undefined, node(paint, 'Primer'), node(paint, 'Paint'))
    const down = moveLayer(paint, undefined, node(paint, 'Paint'), 'stock')
    expect(titles(up)).toEqual(['Steel, raw stock', 'Paint', 'Primer', 'Edge wear', 'Clear coat'])
    expect(titles(down)).toEqual(titles(up))
    expect(titles(moveLayer(up, undefined, node(up, 'Primer'), 'stock'))).toEqual(titles(paint))
    expect(faults(up)).toEqual([])
  })
  it('refuses what has no meaning, with the reason, and a move to where it lies already is no change', () => {
    expect(() => moveLayer(paint, undefined, 'stock', node(paint, 'Paint'))).toThrow(/stock stays/)
    expect(() => moveLayer(paint, undefined, node(paint, 'Edge wear'), 'stock')).toThrow(/nothing left/)
    expect(() => moveLayer(paint, undefined, 'absent', 'stock')).toThrow(/no such layer/)
    expect(moveLayer(paint, undefined, node(paint, 'Paint'), node(paint, 'Primer'))).toBe(paint)
  })
  it('doubles a deposit with a surface of its own, and a coat', () => {
    const two = duplicateLayer(paint, undefined, node(paint, 'Paint'))
    const coats = duplicateLayer(paint, undefined, node(paint, 'Clear coat'))
    expect(titles(two.document)).toEqual([
      'Steel, raw stock',
      'Primer',
      'Paint',
      'Paint 2',
      'Edge wear',
      'Clear coat',
    ])
    const surfaces = layersOf(two.document).map(l => l.surface)
    expect(new Set(surfaces).size).toBe(surfaces.length)
    expect(layersOf(two.document).find(l => l.title === 'Paint 2')!.node).toBe(two.name)
    expect(titles(coats.document).slice(-2)).toEqual(['Clear coat', 'Clear coat 2'])
    expect(faults(two.document).concat(faults(coats.document))).toEqual([])
    expect(() => duplicateLayer(paint, undefined, 'stock')).toThrow(/stock/)
  })
  it('alone switches the others off, and a cut keeps the deposits it works on', () => {
    const off = (d: typeof paint) =>
      layersOf(d)
        .filter(l => l.off)
        .map(l => l.title)
    expect(off(layerAlone(paint, undefined, node(paint, 'Paint')))).toEqual(['Primer', 'Edge wear', 'Clear coat'])
    expect(off(layerAlone(paint, undefined, node(paint, 'Edge wear')))).toEqual([])
  })
})
