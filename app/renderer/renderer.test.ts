import { describe, expect, it } from 'vitest'
import { cameraFrame, defaultCamera, type Camera, FRAME } from '../../core/scene/camera'
import { setValue } from '../../core/network/edit'
import { starters } from '../../core/network/starters'
import { layersOf } from '../../core/network/layers'
import { drawnLayers, drawSection, dropTarget, placeLabels, sectionWidths } from '../section/section'
import { stepsOf } from '../words/steps'
import { layout, wiresOf } from '../canvas/arrange'
import { cardOf } from '../canvas/cards'
import { rangeOf } from '../words/labels'
import { dolly, orbit, pan, project, rayThrough } from '../../core/scene/orbit'
import { documentTint, surfaceTint } from '../pictures/tint'
import { readQuantity, writeQuantity } from '../words/units'
import { isNode, nameOf } from '../../core/network/document'
import { compileMaterial } from '../../core/world/compile-material'
import { tidy } from '../canvas/tidy'

describe('fields', () => {
  it.each([
    ['2.5 cm', 'length', 'mm', 0.025],
    ['40 µm', 'length', 'µm', 4e-5],
    ['40', 'length', 'µm', 4e-5],
    ['0,04 mm', 'length', 'µm', 4e-5],
    ['1e3 nm', 'length', 'µm', 1e-6],
    ['17 %', 'share', '', 0.17],
    ['-0.5', 'plain', '', -0.5],
  ] as const)('read "%s" as a %s', (text, quantity, shown, value) =>
    expect(readQuantity(text, quantity, shown)).toBeCloseTo(value, 12),
  )
  it.each(['forty', '', '2 parsec', '1 2', 'Infinity', '--3'])('refuse "%s"', text =>
    expect(readQuantity(text, 'length', 'mm')).toEqual(expect.any(String)),
  )
  it('write what they read', () =>
    expect(writeQuantity(readQuantity('123.4 µm', 'length', 'µm') as number, 'length', 'µm')).toBe('123.4'))
  it('show lengths in units an artist uses', () => {
    expect(rangeOf({ name: 'radius', type: 'float' })).toMatchObject({ quantity: 'length', unit: 'mm' })
    expect(rangeOf({ name: 'specular_ior', type: 'float' })).toMatchObject({ low: 1, high: 3 })
  })
})

describe('the camera', () => {
  const camera: Camera = { name: 'c', position: [1, 2, 5], target: [0, 1, 0], fov: 30 }
  const distance = (c: Camera) => Math.hypot(...[0, 1, 2].map(k => c.position[k]! - c.target[k]!))
  it('turns about its target at one distance, and never past a pole', () => {
    expect(distance(orbit(camera, 50, 20))).toBeCloseTo(distance(camera), 9)
    const top = orbit(camera, 0, 1000)
    expect(top.position[1] - top.target[1]).toBeLessThan(distance(camera))
    expect(orbit(orbit(camera, 30, 0), -30, 0).position[0]).toBeCloseTo(1, 9)
  })
  it('moves and comes nearer', () => {
    expect(distance(dolly(camera, 0.5))).toBeCloseTo(distance(camera) / 2, 9)
    const moved = pan(camera, 0.1, 0)
    expect(distance(moved)).toBeCloseTo(distance(camera), 9)
    expect(moved.target).not.toEqual(camera.target)
  })
  it('a ray through the middle goes to the target', () => {
    const r = rayThrough(camera, 400, 250, 800, 500)
    const d = distance(camera)
    for (let k = 0; k < 3; k++) expect(r[k]! + r[3 + k]! * d).toBeCloseTo(camera.target[k]!, 9)
  })
  it('projecting is the inverse of a ray', () => {
    const r = rayThrough(camera, 123, 77, 800, 500)
    const at = project(
      camera,
      [0, 1, 2].map(k => r[k]! + 3 * r[3 + k]!),
      800,
      500,
    )!
    expect(at.x).toBeCloseTo(123, 6)
    expect(at.y).toBeCloseTo(77, 6)
    expect(project(camera, [1, 2, 50], 800, 500)).toBeUndefined()
  })
  it('the default looks from (1, 0.6, 1.6) and the bounding sphere fills 90 % of the shorter side', () => {
    const c = defaultCamera([-1, -1, -1, 1, 1, 1], 640, 400)
    const l = Math.hypot(1, 0.6, 1.6)
    const d = distance(c)
    for (let k = 0; k < 3; k++) expect(c.position[k]! / d).toBeCloseTo([1, 0.6, 1.6][k]! / l, 9)
    expect(Math.tan(Math.asin(Math.sqrt(3) / d)) / Math.tan((15 * Math.PI) / 180)).toBeCloseTo(0.9, 9)
    expect(cameraFrame(c, 640, 400)).toHaveLength(FRAME.words)
  })
})

describe('cards', () => {
  const paint = starters.find(s => s.key === 'layered_paint')!.make()
  it('bear the number of components on wires; surfaces are a ladder', () => {
    const wires = wiresOf(paint)
    expect(wires.find(w => w.targetHandle === 'coat_color')).toMatchObject({ slashes: 3, surface: false })
    expect(wires.find(w => w.targetHandle === 'base')!.surface).toBe(true)
  })
  it('show faults of their node, and what is off', () => {
    const e = paint.children.find(c => c.tag === 'wl_curvature')!
    const card = cardOf(
      paint,
      { ...e, attributes: { ...e.attributes, wl_off: 'true' } },
      nameOf(e),
      [
        { where: e.attributes.name!, severity: 'error', message: 'no' },
        { where: 'other', severity: 'error', message: 'x' },
      ],
      false,
    )
    expect(card.faults).toEqual(['no'])
    expect(card.off).toBe(true)
    expect(card.inputs.find(i => i.name === 'radius')!.value).toBe('1.6 mm')
  })
  it('are laid out by wires where a document has no positions', () => {
    const bare = {
      ...paint,
      children: paint.children.map(c => {
        const { xpos: _, ypos: __, ...attributes } = c.attributes
        return { ...c, attributes }
      }),
    }
    const place = layout(bare)
    for (const w of wiresOf(bare)) expect(place.get(w.source)!.x).toBeLessThan(place.get(w.target)!.x)
  })
  it('swatches have the colour of the topmost opaque layer', () => {
    expect(documentTint(paint)).toBe(surfaceTint(paint, 'paint'))
    expect(surfaceTint(setValue(paint, 'paint', 'base_color', 'color3', '1, 0, 0'), 'paint')).toBe(
      'rgb(255, 0, 0)',
    )
  })
})

describe('steps of a test strip', () => {
  it('cover the range and hold the value itself', () => {
    expect(stepsOf(0.3, 0, 1)).toEqual([0, 0.3, 0.5, 0.75, 1])
    expect(stepsOf(1, 0, 1)).toEqual([0, 0.25, 0.5, 0.75, 1])
  })
  it('go from half to twice where there is no range', () =>
    expect(stepsOf(4, 0, Infinity)).toEqual([2, 2.828, 4, 5.657, 8]))
})

describe('the cross-section', () => {
  const document = starters.find(s => s.key === 'layered_paint')!.make()
  const layers = drawnLayers(document, layersOf(document))
  const none = new Map<string, Float64Array>()
  it('stacks the layers to their thickness, on a stated scale', () => {
    const s = drawSection(layers, none, 168, 1e6) // one pixel a micrometre
    expect(s.bands.map(b => [b.layer.title, +(b.from * 1e6).toFixed(3), +(b.to * 1e6).toFixed(3)])).toEqual([
      ['Primer', 0, 25],
      ['Paint', 25, 105],
      ['Clear coat', 105, 145],
    ])
    expect(s.bands.map(b => Math.round(s.ground - b.top))).toEqual([25, 105, 145])
  })
  it('a cut takes away what lies above what it bares, where its mask says so; a coat laid later stays', () => {
    const cut = layers.find(l => l.kind === 'cut')!
    const half = new Map([[cut.mask!, Float64Array.from({ length: 64 }, (_, i) => (i < 32 ? 1 : 0))]])
    const s = drawSection(layers, half, 168)
    expect(s.bands.map(b => [b.layer.title, Math.round(b.kept * 10) / 10])).toEqual([
      ['Primer', 0.5],
      ['Paint', 0.5],
      ['Clear coat', 1],
    ])
  })
  it('drawing and labels grow with the pane, and leave each other room in a narrow one', () => {
    for (const pane of [300, 318, 480, 960]) {
      const { right, labels } = sectionWidths(pane)
      expect(right - 40, `${pane}`).toBeGreaterThanOrEqual(96)
      expect(pane - labels, `${pane}`).toBeGreaterThanOrEqual(pane < 318 ? 130 : 150)
    }
    expect(sectionWidths(480).right - 40).toBeGreaterThan(200)
  })
  it('labels keep apart in the order of the layers; a drop lands on the label under it', () => {
    const labels = placeLabels(layers, drawSection(layers, none, 168))
    expect(labels.map(l => l.layer.title)).toEqual([
      'Clear coat',
      'Edge wear',
      'Paint',
      'Primer',
      'Steel, raw stock',
    ])
    labels.slice(1).forEach((l, i) => expect(l.at - labels[i]!.at).toBeGreaterThanOrEqual(37))
    expect(dropTarget(labels, -50)).toBe(layers.at(-1)!.node)
    expect(dropTarget(labels, 1e4)).toBe('stock')
  })
})

describe('a tidied network', () => {
  it('runs from left to right along every wire, and no card lies on another', () => {
    for (const starter of starters) {
      const d = tidy(starter.make(), { width: 900, height: 400 })
      const place = layout(d)
      const rows = new Map(
        d.children.filter(isNode).map(e => [nameOf(e), cardOf(d, e, nameOf(e), [], false).inputs.length]),
      )
      for (const w of wiresOf(d))
        expect(place.get(w.source)!.x + 148, `${starter.key}: ${w.id}`).toBeLessThan(place.get(w.target)!.x)
      const boxes = [...place].map(
        ([name, p]) => [p.x, p.y, p.x + 148, p.y + Math.max(70, 32 + rows.get(name)! * 19)] as const,
      )
      expect(
        boxes.flatMap((a, i) =>
          boxes.slice(i + 1).filter(b => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]),
        ),
        starter.key,
      ).toEqual([])
      expect(compileMaterial(d).source).toBe(compileMaterial(starter.make()).source)
    }
  })
})
