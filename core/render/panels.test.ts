/** Panels before panels, before suns, behind openings: what drawn lights and drawn directions meet is one truth. */
import { describe, expect, it } from 'vitest'
import type { Part } from '../mesh/model'
import { quad } from '../mesh/quad'
import { rigSchema } from '../scene/rig'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'
import { above, floor, white } from '../testing/white-floor'
import { underPolygon } from '../testing/under-polygon'
import { TILE } from './film'
import { createFirstHits } from './first-hits'
import { renderTile } from './integrate'
import { createTracer } from './tracer'

/** A square panel at a height that shines down, or up. */
const panel = (y: number, half: number, L: number, more: object = {}, up = false) => ({
  name: `p${y}`,
  centre: [0, y, 0],
  u: up ? [0, 0, half] : [half, 0, 0],
  v: up ? [half, 0, 0] : [0, 0, half],
  radiance: [L, L, L],
  ...more,
})
const sun = {
  name: 'sun',
  centre: [0, 1, 0],
  u: [Math.tan(0.02), 0, 0],
  v: [0, 0, Math.tan(0.02)],
  radiance: [2000, 2000, 2000],
  shape: 'sun',
}
const rig = (panels: object[], more: object = {}) =>
  rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, panels, ...more })
/** Radiance of the white floor. */
const lit = (panels: object[], more: object = {}): number =>
  meanColour(
    sumOfPasses(sceneOf({ parts: [floor] }, [white], rig(panels, more), above, 8, 8), 8, 8, 0, 96),
    96,
  )[1]!

/** Share of a cosine hemisphere that a square of half edges a fills at height h (four corners; closed form). */
function filled(a: number, h: number): number {
  const s = Math.sqrt(h * h + a * a)
  return (4 * ((a / s) * Math.atan(a / s) + (a / s) * Math.atan(a / s))) / (2 * Math.PI)
}

describe('panels', () => {
  it('whose edges are not square to each other shine as the polygon that they are, whatever finds it', () => {
    const u = [0.5, 0.1, 0.1]
    const v = [0.35, -0.05, 0.4]
    const leaning = { ...panel(1, 0.5, 3), u, v }
    const corner = (a: number, b: number) => [0, 1, 0].map((c, k) => c + a * u[k]! + b * v[k]!)
    const exact = 3 * underPolygon([corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)])
    for (const gather of ['both', 'lights', 'directions'] as const) {
      const scene = sceneOf({ parts: [floor] }, [white], rig([leaning]), above, 8, 8)
      scene.lights.gather = gather
      // from below it shines only if it leaves downwards
      const mean = meanColour(sumOfPasses(scene, 8, 8, 0, 256), 256)[1]!
      expect(Math.abs(mean - exact), gather).toBeLessThan(0.03 * exact)
    }
  })

  it('hide what lies behind their shining side: a panel behind a panel adds nothing', () => {
    const one = lit([panel(1, 0.5, 3)])
    expect(Math.abs(one - 3 * filled(0.5, 1))).toBeLessThan(0.02)
    expect(Math.abs(lit([panel(1, 0.5, 3), panel(1.5, 0.5, 3)]) - one)).toBeLessThan(0.02)
    expect(Math.abs(lit([panel(1.5, 0.5, 3), panel(1, 0.5, 3)]) - one)).toBeLessThan(0.02)
  })

  it('are clear from behind', () => {
    const alone = lit([panel(1.5, 0.5, 3)])
    expect(Math.abs(lit([panel(1.5, 0.5, 3), panel(1, 0.5, 3, {}, true)]) - alone)).toBeLessThan(0.02)
  })

  it('hide a sun and a sky; blockers do from both sides', () => {
    const whole = 2000 * Math.sin(0.02) ** 2
    expect(Math.abs(lit([sun]) / whole - 1)).toBeLessThan(0.01)
    const box = panel(1, 0.5, 0.5)
    expect(Math.abs(lit([sun, box]) - lit([box]))).toBeLessThan(0.01)
    expect(Math.abs(lit([sun, panel(1, 0.5, 0.5, {}, true)]) / whole - 1)).toBeLessThan(0.01)
    for (const up of [false, true]) expect(lit([sun, panel(1, 0.5, 0, { blocks: true }, up)])).toBeLessThan(1e-6)
    // a dark softbox over the floor takes its part of an overcast sky: by luminance (1 + 2 sin γ)/3 it is more
    // than its share of the hemisphere
    const sky = { environment: { kind: 'sky', type: 1, scale: 1, elevation: 40, sun: 0 } }
    const open = lit([], sky)
    const behind = lit([panel(0.5, 0.5, 1e-6)], sky)
    expect(open).toBeGreaterThan(0.9)
    expect(behind).toBeLessThan(open * (1 - filled(0.5, 0.5)))
  })

  describe('behind openings', () => {
    const hole = materialOf(mtlx(pbr({ geometry_opacity: 0 })), 's')
    const card = (z: number, name = 'card'): Part => quad(name, [-2, -2, z, 2, -2, z, 2, 2, z, -2, 2, z])
    const camera = {
      name: 'c',
      position: [0, 0, 4] as [number, number, number],
      target: [0, 0, 0] as [number, number, number],
      fov: 10,
    }
    const behind = { ...panel(0, 1, 5), centre: [0, 0, -3], u: [1, 0, 0], v: [0, 1, 0] }
    const seen = (parts: Part[], panels: object[], more: object = {}) =>
      meanColour(sumOfPasses(sceneOf({ parts }, [hole], rig(panels, more), camera, 8, 8), 8, 8, 0, 4), 4)[1]!

    it('the camera sees what it would see without them: no panel that is not for it, the backdrop', () => {
      const backdrop = { backdrop: [0.2, 0.2, 0.2] }
      expect(seen([card(0)], [behind], backdrop)).toBeCloseTo(0.2, 6)
      expect(seen([card(0)], [{ ...behind, visible: true }], backdrop)).toBeCloseTo(5, 5)
    })

    it('are no bounces: a hundred in a row', () => {
      const row = Array.from({ length: 100 }, (_, i) => card(-i / 100, `card ${i}`))
      expect(seen(row, [{ ...behind, visible: true }])).toBeCloseTo(5, 5)
    })

    it.each([
      ['sun', [sun], 2000 * Math.sin(0.02) ** 2],
      ['panel', [panel(2, 0.5, 3)], 3 * filled(0.5, 2)],
    ] as const)(
      'drawn lights pass by themselves, and nothing counts twice: a floor under half-open cloths and a %s',
      (_, lights, whole) => {
        const cloth = materialOf(
          mtlx(pbr({ base_color: '0, 0, 0', specular_weight: 0, geometry_opacity: 0.4 })),
          's',
        )
        const sheet = (y: number) => quad(`sheet ${y}`, [-9, y, 9, 9, y, 9, 9, y, -9, -9, y, -9])
        const scene = sceneOf(
          { parts: [floor, sheet(0.5), sheet(0.8)] },
          [white, cloth, cloth],
          rig([...lights]),
          above,
          8,
          8,
        )
        const values = Array.from(
          { length: 24 },
          (_, i) => meanColour(sumOfPasses(scene, 8, 8, i * 2, i * 2 + 2), 2)[1]!,
        )
        const mean = values.reduce((s, x) => s + x, 0) / values.length
        expect(Math.abs(mean / (0.36 * whole) - 1)).toBeLessThan(0.02)
        // each pass is sure: no pixel waits for a path that finds the lamp by chance
        const deviation = Math.sqrt(values.reduce((s, x) => s + (x - mean) ** 2, 0) / values.length)
        expect(deviation / mean).toBeLessThan(0.05)
      },
    )

    it('part, depth and albedo are those of what is seen', () => {
      const wall = card(-1, 'wall')
      const scene = sceneOf(
        { parts: [card(0), wall] },
        [hole, materialOf(mtlx(pbr({ base_color: '0.3, 0.3, 0.3', specular_weight: 0 })), 's')],
        rig([behind]),
        camera,
        TILE,
        TILE,
      )
      const first = createFirstHits()
      const tile = new Float64Array(TILE * TILE * 3)
      renderTile(createTracer(), scene, 0, 0, TILE, TILE, TILE, TILE, 0, 0, tile, first)
      const middle = (TILE * TILE + TILE) / 2
      expect(first.part[middle]).toBe(1)
      expect(first.depth[middle]).toBeCloseTo(5, 1)
      expect(first.albedo[middle * 3]).toBeCloseTo(0.3, 3)
      // nothing behind: nothing seen
      renderTile(
        createTracer(),
        sceneOf({ parts: [card(0)] }, [hole], rig([]), camera, TILE, TILE),
        0,
        0,
        TILE,
        TILE,
        TILE,
        TILE,
        0,
        0,
        tile,
        first,
      )
      expect(first.part[middle]).toBe(-1)
    })
  })
})
