import { describe, expect, it } from 'vitest'
import { childNamed, element, nameOf, type Element } from '../../core/network/document'
import { frameNodes } from '../../core/network/annotate'
import { mtlx } from '../../core/testing/setup'
import { arrange } from './arrange'
import { tidy } from './tidy'

/** A surface that a number of noises feed. */
const star = (inputs: readonly string[]): Element =>
  mtlx(
    inputs.map((_, i) => `<noise3d name="n${i}" type="float"/>`).join('') +
      `<open_pbr_surface name="s" type="surfaceshader">${inputs
        .map((n, i) => `<input name="${n}" type="float" nodename="n${i}"/>`)
        .join('')}</open_pbr_surface>`,
  )
const INPUTS = [
  'base_weight',
  'base_diffuse_roughness',
  'base_metalness',
  'specular_weight',
  'specular_roughness',
  'transmission_weight',
  'subsurface_weight',
  'fuzz_weight',
  'coat_weight',
  'coat_roughness',
  'thin_film_weight',
  'thin_film_thickness',
  'emission_luminance',
  'geometry_opacity',
]
/** Size of what is covered. */
function size(d: Element): { width: number; height: number } {
  const all = arrange(d, new Set()).filter(p => p.kind === 'card')
  return {
    width: Math.max(...all.map(p => p.x + p.width)) - Math.min(...all.map(p => p.x)),
    height: Math.max(...all.map(p => p.y + p.height)) - Math.min(...all.map(p => p.y)),
  }
}
const overlaps = (d: Element): string[] => {
  const all = arrange(d, new Set()).filter(p => p.kind === 'card')
  return all.flatMap((a, i) =>
    all
      .slice(i + 1)
      .filter(b => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height)
      .map(b => `${a.id} ${b.id}`),
  )
}

describe('tidy', () => {
  it('takes the shape of the pane: what feeds one node is no single column where there is width', () => {
    const wide = tidy(star(INPUTS), { width: 1000, height: 300 })
    const tall = tidy(star(INPUTS), { width: 420, height: 1600 })
    expect(size(tall).height).toBeGreaterThan(14 * 80)
    expect(size(wide).height).toBeLessThan(size(tall).height / 2)
    expect(size(wide).width).toBeGreaterThan(size(tall).width)
    expect(overlaps(wide)).toEqual([])
    expect(overlaps(tall)).toEqual([])
  })
  it('keeps the cards of a frame together, with no other among them', () => {
    const framed = frameNodes(star(INPUTS), ['n1', 'n6', 'n11']).document
    const all = arrange(tidy(framed, { width: 900, height: 500 }), new Set())
    const frame = all.find(p => p.kind === 'backdrop')!
    const inside = all.filter(
      p =>
        p.kind === 'card' &&
        p.x < frame.x + frame.width &&
        p.x + p.width > frame.x &&
        p.y < frame.y + frame.height &&
        p.y + p.height > frame.y,
    )
    expect(inside.map(p => p.id).sort()).toEqual(['n1', 'n11', 'n6'])
  })
  it('keeps a note beside its card', () => {
    const d = star(INPUTS)
    const note = element('backdrop', { name: 'note', doc: 'Read me', xpos: '0.5', ypos: '-1' })
    const at = (e: Element, name: string, key: string) => Number(childNamed(e, name)!.attributes[key])
    const placed = {
      ...d,
      children: [
        ...d.children.map((c, i) => ({ ...c, attributes: { ...c.attributes, xpos: String(i), ypos: '0' } })),
        note,
      ],
    }
    const out = tidy(placed, { width: 900, height: 500 })
    const next = nameOf(placed.children[0]!)
    expect(at(out, 'note', 'xpos') - at(out, next, 'xpos')).toBeCloseTo(0.5, 2)
    expect(at(out, 'note', 'ypos') - at(out, next, 'ypos')).toBeCloseTo(-1, 2)
  })
})
