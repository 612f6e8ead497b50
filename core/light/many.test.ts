/** Rigs of many lights: what rays meet of them, how they are drawn, how a picture under them is kept apart. */
import { describe, expect, it } from 'vitest'
import { POINT, POINT_STRIDE } from '../point/slots'
import { MOST_PANELS } from '../scene/most-panels'
import { rigSchema, type Rig } from '../scene/rig'
import { meanColour, sceneOf, sumOfPasses } from '../testing/setup'
import { above, floor, white } from '../testing/white-floor'
import { MOST_CUT } from './choices'
import { createLights, factorsBetween, layerNames } from './create-lights'
import { chanceOf, weighNode } from './descend'
import { chanceOfPanel, sampleLight, shareOfChoice, weighLights } from './draw-light'
import { lightLayers, MOST_LAYERS } from './light-layers'
import { hitPanel, panelDensity } from './meet-panel'
import { lit } from './memory'
import { receiveAll, receiveAt } from './receiver'
import { NODE } from './slots'
import { leavesBelow } from './tree'

let state = 7
const random = () => (state = (state * 48271) % 2147483647) / 2147483647
const between = (a: number, b: number) => a + (b - a) * random()
const direction = () => {
  const z = between(-1, 1)
  const a = between(0, 2 * Math.PI)
  const r = Math.sqrt(1 - z * z)
  return [r * Math.cos(a), r * Math.sin(a), z]
}
const rig = (panels: object[], more: object = {}): Rig =>
  rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, panels, ...more })

/** Lights of every shape, anywhere and turned any way; some dark, some that block, some that the camera sees. */
function anyPanels(n: number): object[] {
  return Array.from({ length: n }, (_, i) => {
    const [a, b] = [direction(), direction()]
    const size = between(0.05, 0.4)
    const shape = ['rectangle', 'disc', 'ball', 'ball'][i % 4]!
    return {
      name: `p${i}`,
      centre: [between(-4, 4), between(-4, 4), between(-4, 4)],
      u: a.map(x => x * size),
      v: b.map(x => x * size),
      radiance: i % 11 === 3 ? [0, 0, 0] : [between(0, 9), between(0, 9), between(0, 9)],
      shape,
      visible: i % 3 === 0,
      ...(i % 17 === 5 && shape !== 'ball' ? { blocks: true } : {}),
      ...(i % 8 === 3 ? { cone: [20, 50] } : {}),
    }
  })
}
const sun = {
  name: 'sun',
  centre: [1, 2, 1],
  u: [0.05, 0, 0],
  v: [0, 0, 0.05],
  radiance: [90, 90, 90],
  shape: 'sun',
}
const pointAt = (x: number, y: number, z: number) => {
  const S = new Float64Array(POINT_STRIDE)
  S.set([x, y, z])
  S[POINT.part] = 0
  return S
}

describe('boxes over panels', () => {
  const lights = createLights(rig([...anyPanels(300), sun]), null)
  const one = { ...lights, boxes: null }
  it('leave out nothing that a ray meets, from anywhere, near and far', () => {
    let met = 0
    for (let i = 0; i < 20_000; i++) {
      const from = Float64Array.of(between(-5, 5), between(-5, 5), between(-5, 5))
      const way = Float64Array.from(
        i % 10 === 0
          ? [
              [1, 0, 0],
              [0, -1, 0],
              [0, 0, 1],
            ][i % 3]!
          : direction(),
      )
      const limit = i % 4 === 0 ? Infinity : between(0, 6)
      lit.distance = limit
      const all = hitPanel(one, from, way, 0, i % 2 === 0)
      const distance = lit.distance
      lit.distance = limit
      expect(hitPanel(lights, from, way, 0, i % 2 === 0)).toBe(all)
      expect(lit.distance).toBe(distance)
      if (all >= 0) met++
    }
    expect(met).toBeGreaterThan(1000)
  })
})

describe('a tree over panels', () => {
  const lights = createLights(rig([...anyPanels(300), sun]), null)
  const { choices, panels } = lights
  const tree = choices.tree!
  it('has each panel that shines below one choice, and the sun by itself', () => {
    const below: number[] = []
    choices.of.forEach(of => (of < 0 ? leavesBelow(tree, -1 - of, i => below.push(i)) : below.push(of)))
    const shining = Array.from({ length: 301 }, (_, i) => i).filter(i => choices.byPanel[i]! >= 0)
    expect(below.sort((a, b) => a - b)).toEqual(shining)
    expect(choices.of.length).toBe(MOST_CUT + 1)
    expect(choices.of[0]).toBe(300)
  })
  it('gives nothing up: a node counts wherever one of its panels does, whoever receives', () => {
    let asked = 0
    for (let i = 0; i < 400; i++) {
      const S = pointAt(between(-6, 6), between(-6, 6), between(-6, 6))
      if (i % 2) receiveAll()
      else receiveAt(...(direction() as [number, number, number]), 1 + (i % 4) / 2)
      for (let node = 0; node < tree.nodes.length / NODE.stride; node++) {
        if (tree.nodes[node * NODE.stride + NODE.child]! < 0) continue
        const w = weighNode(tree, node, panels, S, 0)
        let any = false
        leavesBelow(tree, node, (_, leaf) => (any ||= weighNode(tree, leaf, panels, S, 0) > 0))
        if (any) expect(w).toBeGreaterThan(0)
        asked++
      }
    }
    expect(asked).toBeGreaterThan(10_000)
    receiveAll()
  })
  it('draws with chances that add up to one at each node where either half gives something', () => {
    let asked = 0
    for (let i = 0; i < 200; i++) {
      const S = pointAt(between(-6, 6), between(-6, 6), between(-6, 6))
      for (let node = 0; node < tree.nodes.length / NODE.stride; node++) {
        const child = tree.nodes[node * NODE.stride + NODE.child]!
        if (child < 0) continue
        const chance = (half: number) => chanceOf(tree, half, node, panels, S, 0)
        const gives = weighNode(tree, child, panels, S, 0) + weighNode(tree, child + 1, panels, S, 0) > 0
        expect(chance(child) + chance(child + 1)).toBeCloseTo(gives ? 1 : 0, 9)
        if (gives) asked++
      }
    }
    expect(asked).toBeGreaterThan(10_000)
  })
  it('draws each light with the density that is stated for the ray which finds it', () => {
    const origin = Float64Array.of(0.3, -0.2, 0.1)
    const S = pointAt(0.3, -0.2, 0.1)
    const draws = new Float64Array(3)
    const seen = new Set<number>()
    receiveAt(0, 1, 0, 1)
    for (let i = 0; i < 4000; i++) {
      draws.set([random(), random(), random()])
      weighLights(lights, S)
      if (!sampleLight(lights, null as never, S, draws)) continue
      const drawn = { ...lit }
      lit.distance = drawn.distance
      lit.share =
        shareOfChoice(lights, choices.byPanel[drawn.light]!, origin, 0, 0) *
        chanceOfPanel(lights, drawn.light, origin, 0)
      panelDensity(lights, drawn.light, origin, Float64Array.of(drawn.x, drawn.y, drawn.z), 0)
      expect(lit.pdf / drawn.pdf).toBeCloseTo(1, 8)
      seen.add(drawn.light)
    }
    expect(seen.size).toBeGreaterThan(100)
    receiveAll()
  })
})

describe('a panel that is cut into many', () => {
  const cut = (n: number) =>
    Array.from({ length: n * n }, (_, i) => ({
      name: `${i}`,
      centre: [((i % n) + 0.5) / n - 0.5, 1, (Math.floor(i / n) + 0.5) / n - 0.5],
      u: [0.5 / n, 0, 0],
      v: [0, 0, 0.5 / n],
      radiance: [3, 3, 3],
    }))
  // a square of half edges a at height h fills this share of a cosine hemisphere (four corners; closed form)
  const s = Math.sqrt(1.25)
  const exact = (3 * 4 * ((0.5 / s) * Math.atan(0.5 / s) * 2)) / (2 * Math.PI)
  it.each(['both', 'lights', 'directions'] as const)('lights a floor as one does, by %s', gather => {
    const scene = sceneOf({ parts: [floor] }, [white], rig(cut(14)), above, 8, 8)
    scene.lights.gather = gather
    const mean = meanColour(sumOfPasses(scene, 8, 8, 0, 96), 96)[1]!
    expect(Math.abs(mean - exact)).toBeLessThan((gather === 'directions' ? 0.03 : 0.01) * exact)
  })
  it('with a hundred of them behind blockers leaves what is free', () => {
    // a blocker below the half x > 0 of it: what is left is half the square, by symmetry
    const half = {
      name: 'b',
      centre: [0.5, 0.99, 0],
      u: [0.5, 0, 0],
      v: [0, 0, 1],
      radiance: [0, 0, 0],
      blocks: true,
    }
    const scene = sceneOf({ parts: [floor] }, [white], rig([...cut(14), half]), above, 8, 8)
    const mean = meanColour(sumOfPasses(scene, 8, 8, 0, 256), 256)[1]!
    expect(Math.abs(mean - exact / 2)).toBeLessThan(0.015 * exact)
  })
})

describe('layers of light', () => {
  const lamp = (name: string, group?: string) => ({ name, ...(group ? { group } : {}) })
  it('are one a panel while they are few, and one a group', () => {
    const { names, of } = lightLayers([lamp('key'), lamp('a', 'string'), lamp('rim'), lamp('b', 'string')])
    expect(names).toEqual(['key', 'string', 'rim', 'environment', 'emission'])
    expect([...of]).toEqual([0, 1, 2, 1, 3, 4])
  })
  it('never are more than may be: what has no group shares one, and so do groups beyond', () => {
    const many = Array.from({ length: 500 }, (_, i) => lamp(`l${i}`, i % 50 < 45 ? `g${i % 50}` : undefined))
    const { names, of } = lightLayers(many)
    expect(names.length).toBe(MOST_LAYERS)
    expect(names).toContain('g0')
    expect(names).toContain('other panels')
    many.forEach((p, i) =>
      expect(names[of[i]!]).toBe(p.group && names.includes(p.group) ? p.group : 'other panels'),
    )
    // a panel and a group of one name stay two
    expect(lightLayers([lamp('a'), lamp('b', 'a')]).names).toEqual(['a', 'a', 'environment', 'emission'])
  })
  it('are mixed where all of a group change alike', () => {
    const of = (a: number, b: number) =>
      rig([
        { ...sun, shape: 'disc', name: 'a', group: 'g', radiance: [a, a, a] },
        { ...sun, shape: 'disc', name: 'b', group: 'g', radiance: [b, b, b] },
      ])
    const base = createLights(of(2, 4), null)
    expect(layerNames(of(2, 4))).toEqual(['g', 'environment', 'emission'])
    expect(factorsBetween(base, createLights(of(1, 2), null))).toEqual([0.5, 0.5, 0.5, 1, 1, 1, 1, 1, 1])
    expect(factorsBetween(base, createLights(of(1, 4), null))).toBeNull()
  })
})

describe('a rig', () => {
  it('may have thousands of panels and sixteen suns, no more', () => {
    expect(rig(anyPanels(500)).panels.length).toBe(500)
    expect(() => rig(Array.from({ length: 17 }, () => sun))).toThrow(/at most 16 suns/)
    expect(() => rig(Array.from({ length: MOST_PANELS + 1 }, () => sun))).toThrow()
  })
})
