import { describe, expect, it } from 'vitest'
import { memory } from '../nodes/memory'
import { materialOf, mtlx, valueAt } from '../testing/setup'
import { connect, setValue } from './edit'
import { driverOf } from './groups'
import { depositOfThickness, hideByThickness, setHidingThickness, thicknessOfDeposit } from './hiding'
import { insertDeposit, layersOf, setThickness } from './layers'
import { statedThickness } from './thickness'

const MICRON = 1e-6
const stock = mtlx(`<open_pbr_surface name="stock" type="surfaceshader"/>
  <noise3d name="n" type="float"/>
  <surfacematerial name="m" type="material">
    <input name="surfaceshader" type="surfaceshader" nodename="stock"/>
  </surfacematerial>`)
const paint = insertDeposit(stock, 'stock', 'Paint', '0.2, 0.2, 0.2', 60 * MICRON)

const LAYER = { kind: 'deposit' as const, node: paint.name, surface: 'paint' }

/** How much of a deposit there is, as the network computes it. */
function presence(document: typeof stock): number {
  const m = materialOf(document, driverOf(document, paint.name, 'mix')!)
  return valueAt(m.shader, m.constants, memory.result, 0.5, 0.5)[0]!
}
const hidden = hideByThickness(paint.document, paint.name, 60 * MICRON)

describe('a deposit that hides by its thickness', () => {
  it('lets 2 % through as it was, and the power of that at other thicknesses (Beer–Lambert)', () => {
    for (const share of [0, 0.25, 0.5, 1, 2]) {
      const d = setValue(hidden.document, hidden.place.node, hidden.place.input, 'float', String(share))
      expect(presence(d)).toBeCloseTo(1 - Math.exp(share * Math.log(0.02)), 9)
    }
  })
  it('says its thickness in metres, and takes it in metres', () => {
    expect(statedThickness(hidden.document, LAYER)).toBeCloseTo(60 * MICRON, 12)
    const layer = layersOf(hidden.document).find(l => l.node === paint.name)!
    expect(layer.thickness).toBeCloseTo(60 * MICRON, 12)
    const thinner = setThickness(hidden.document, layer, 15 * MICRON)
    expect(layersOf(thinner).find(l => l.node === paint.name)!.thickness).toBeCloseTo(15 * MICRON, 12)
    expect(presence(thinner)).toBeCloseTo(1 - Math.exp(0.25 * Math.log(0.02)), 9)
  })
  it('keeps the mask that it had, beside it', () => {
    const masked = hideByThickness(setValue(paint.document, paint.name, 'mix', 'float', '0.4'), paint.name, MICRON)
    expect(presence(masked.document)).toBeCloseTo(0.4 * 0.98, 9)
    const driven = hideByThickness(connect(paint.document, 'n', paint.name, 'mix'), paint.name, MICRON)
    expect(thicknessOfDeposit(driven.document, paint.name)).toEqual(driven.place)
  })
  it('is driven like any other: what drives it stays', () => {
    const d = connect(hidden.document, 'n', hidden.place.node, hidden.place.input)
    expect(setHidingThickness(d, paint.name, MICRON)).toBe(d)
    expect(statedThickness(d, LAYER)).toBeUndefined()
  })
  it('is known from its input, and only from that', () => {
    expect(depositOfThickness(hidden.document, hidden.place)).toBe('paint')
    expect(depositOfThickness(hidden.document, { ...hidden.place, input: 'in1' })).toBeUndefined()
    expect(thicknessOfDeposit(paint.document, paint.name)).toBeUndefined()
  })
})
