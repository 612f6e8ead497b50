import { describe, expect, it } from 'vitest'
import type { Model } from '../mesh/model'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { POINT, POINT_STRIDE } from '../point/slots'
import { castClosest, createRayBatch } from '../trace/cast'
import { materialOf, mtlx, pbr, sceneOf } from '../testing/setup'
import { chanceOf } from './descend'
import { cutAbove, leafAt, lightOf } from './emitters'
import { areGrey, createLights, factorsBetween, layerNames } from './create-lights'
import { emissionLight, environmentChoice } from './lights'
import { readyLights } from './ready'
import { rigSchema, type Rig } from '../scene/rig'
import { chanceOfPanel, sampleLight, shareOfChoice, weighLights } from './draw-light'
import { panelDensity } from './meet-panel'
import { drawnEmitter, lit } from './memory'
import { triangleDensity } from './sample-emitters'

const floor = quad('floor', [-3, 0, 3, 3, 0, 3, 3, 0, -3, -3, 0, -3])
const wall = quad('wall', [0.5, -9, -9, 0.5, -9, 9, 0.5, 9, 9, 0.5, 9, -9])
const panel = (name: string, x: number, radiance: number[] = [5, 5, 5]) => ({
  name,
  centre: [x, 3, 0],
  u: [0.4, 0, 0],
  v: [0, 0, 0.4],
  radiance,
})
const rig = (panels: object[], more: object = {}): Rig =>
  rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0.2, 0.2, 0.2] }, panels, ...more })
const grey = materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5' })), 's')
const lamp = materialOf(mtlx(pbr({ base_weight: 0, specular_weight: 0, emission_luminance: 5 })), 's')
const camera = {
  name: 'c',
  position: [0, 1, 5] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 30,
}
function ready(model: Model, materials: (typeof grey)[], r: Rig) {
  const s = sceneOf(model, materials, r, camera, 8, 8)
  return { geometry: s.geometry, lights: readyLights(s.geometry, s.lights, s.materials, s.materialOf) }
}
let state = 3
const random = () => (state = (state * 48271) % 2147483647) / 2147483647
const pointAt = (x: number, y: number, z: number, part: number) => {
  const S = new Float64Array(POINT_STRIDE)
  S.set([x, y, z])
  S[POINT.part] = part
  return S
}

describe('what a part sees', () => {
  it('is all of an open panel and nothing of one behind a wall', () => {
    const half = quad('half', [-3, 0, 3, 0, 0, 3, 0, 0, -3, -3, 0, -3])
    const { lights } = ready(
      { parts: [half, wall] },
      [grey, grey],
      rig([panel('here', -1.5), panel('behind', 2.5)]),
    )
    expect(lights.visible![0]).toBe(1)
    expect(lights.visible![1]).toBe(0)
    // the hidden one keeps a twenty-fifth of the draws (ours)
    weighLights(lights, pointAt(-1, 0, 0, 0))
    const all = lit.sum
    weighLights({ ...lights, visible: null }, pointAt(-1, 0, 0, 0))
    expect(all).toBeLessThan(lit.sum)
  })
  it('is found again only where the panels moved', () => {
    const s = sceneOf({ parts: [floor] }, [grey], rig([panel('p', 0)]), camera, 8, 8)
    const a = readyLights(s.geometry, s.lights, s.materials, s.materialOf)
    const dimmed = readyLights(s.geometry, { ...s.lights, environment: [1, 1, 1] }, s.materials, s.materialOf)
    const moved = readyLights(s.geometry, createLights(rig([panel('p', 1)]), null), s.materials, s.materialOf)
    expect(dimmed.visible).toBe(a.visible)
    expect(dimmed.environment).toEqual([1, 1, 1])
    expect(moved.visible).not.toBe(a.visible)
    const brighter = createLights(rig([panel('p', 0, [9, 9, 9])]), null)
    readyLights(s.geometry, s.lights, s.materials, s.materialOf)
    const again = readyLights(s.geometry, brighter, s.materials, s.materialOf)
    expect(again.visible).toEqual(a.visible)
    expect(again.panels).toBe(brighter.panels)
  })
})

describe('a drawn light', () => {
  it('has the density that is stated for the ray which finds it', () => {
    const model: Model = {
      parts: [
        floor,
        {
          ...sphere('lamp', 0.3, 6, 8),
          position: sphere('lamp', 0.3, 6, 8).position.map((x, i) => (i % 3 === 1 ? x + 1.2 : x)),
        },
        wall,
      ],
    }
    const { geometry, lights } = ready(
      model,
      [grey, lamp, grey],
      rig([panel('a', -1.5), panel('b', -0.6, [1, 2, 3]), panel('behind', 2.5)]),
    )
    const S = pointAt(-0.4, 0.01, 0.3, 0)
    const draws = new Float64Array(3)
    const ray = createRayBatch(1)
    let panels = 0
    let triangles = 0
    for (let i = 0; i < 3000; i++) {
      draws[0] = random()
      draws[1] = random()
      draws[2] = random()
      weighLights(lights, S)
      if (!sampleLight(lights, geometry, S, draws)) continue
      const drawn = { ...lit }
      const direction = Float64Array.of(drawn.x, drawn.y, drawn.z)
      const origin = S.slice(0, 3)
      lit.distance = drawn.distance
      if (drawn.light < lights.panelCount) {
        lit.share =
          shareOfChoice(lights, lights.choices.byPanel[drawn.light]!, origin, 0, 0) *
          chanceOfPanel(lights, drawn.light, origin, 0)
        panelDensity(lights, drawn.light, origin, direction, 0)
        expect(lit.pdf / drawn.pdf).toBeCloseTo(1, 9)
        panels++
      } else {
        expect(drawn.light).toBe(emissionLight(lights))
        ray.origin.set(origin)
        ray.direction.set(direction)
        ray.distance[0] = Infinity
        castClosest(geometry.hierarchy, ray, 1)
        // the far side of the ball is drawn too, and hidden by the near one
        if (Math.abs(ray.distance[0]! / drawn.distance - 1) > 1e-6) continue
        const { emitters } = lights
        const leaf = leafAt(emitters!, ray.triangle[0]!, ray.u[0]!, ray.v[0]!)
        const top = cutAbove(emitters!, leaf)
        const choice = environmentChoice(lights) + 1 + emitters!.cutOf[top]!
        expect(
          (shareOfChoice(lights, choice, origin, 0, 0) *
            chanceOf(emitters!.tree, leaf, top, null, origin, 0) *
            triangleDensity(geometry, emitters!.cells, lightOf(emitters!, leaf), direction, 0, ray.distance[0]!)) /
            drawn.pdf,
        ).toBeCloseTo(1, 6)
        triangles++
      }
    }
    expect(panels).toBeGreaterThan(200)
    expect(triangles).toBeGreaterThan(200)
  })
  it('of the tree has densities that add up to one over the triangles', () => {
    // ∫ pdf dω over all triangles, each as its area times cosine over squared distance: the tree's chances add
    // up to one
    const { geometry, lights } = ready({ parts: [sphere('lamp', 0.3, 10, 14)] }, [lamp], rig([]))
    const S = pointAt(0.9, 0.4, -1.1, 0)
    const draws = new Float64Array(3)
    const chances = new Map<number, number>()
    const N = 60000
    for (let i = 0; i < N; i++) {
      draws[0] = (i + 0.5) / N
      draws[1] = random()
      draws[2] = random()
      weighLights(lights, S)
      if (sampleLight(lights, geometry, S, draws))
        chances.set(drawnEmitter.place, (chances.get(drawnEmitter.place) ?? 0) + 1 / N)
    }
    expect(chances.size).toBe(lights.emitters!.leafOf.filter(l => l >= 0).length)
    expect([...chances.values()].reduce((a, b) => a + b, 0)).toBeCloseTo(1, 3)
  })
})

describe('rigs that differ', () => {
  const base = createLights(rig([panel('a', -1, [2, 2, 2]), panel('b', 1, [0, 1, 1])]), null)
  const other = (r: Rig) => factorsBetween(base, createLights(r, null))
  it('in brightness or colour alone are mixed', () => {
    expect(other(rig([panel('a', -1, [1, 1, 1]), panel('b', 1, [0, 3, 3])]))).toEqual([
      0.5, 0.5, 0.5, 1, 3, 3, 1, 1, 1, 1, 1, 1,
    ])
    expect(other(rig([panel('a', -1, [2, 2, 2]), panel('b', 1, [0, 1, 1])], { dim: 0.25 }))).toEqual([
      0.25, 0.25, 0.25, 1, 0.25, 0.25, 0.25, 0.25, 0.25, 1, 1, 1,
    ])
    expect(areGrey(other(rig([panel('a', -1, [1, 1, 1]), panel('b', 1, [0, 1, 1])]))!)).toBe(true)
    expect(areGrey(other(rig([panel('a', -1, [1, 2, 1]), panel('b', 1, [0, 1, 1])]))!)).toBe(false)
  })
  it('in place, number, turn or backdrop, or where a dark light is to shine, are rendered', () => {
    for (const r of [
      rig([panel('a', -1.1, [2, 2, 2]), panel('b', 1, [0, 1, 1])]),
      rig([panel('a', -1, [2, 2, 2])]),
      rig([panel('a', -1, [2, 2, 2]), panel('b', 1, [0, 1, 1])], { turn: 5 }),
      rig([panel('a', -1, [2, 2, 2]), panel('b', 1, [0, 1, 1])], { backdrop: [0, 0, 0] }),
      rig([panel('a', -1, [2, 2, 2]), panel('b', 1, [1, 1, 1])]),
    ])
      expect(other(r)).toBeNull()
  })
  it('name their lights in the order they are kept apart', () => {
    expect(layerNames(rig([panel('a', 0), panel('b', 1)]))).toEqual(['a', 'b', 'environment', 'emission'])
    expect(base.layerCount).toBe(4)
  })
})
