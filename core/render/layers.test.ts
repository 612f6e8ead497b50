import { describe, expect, it } from 'vitest'
import { rigSchema, type Rig } from '../scene/rig'
import { readyLights } from '../light/ready'
import { NODE } from '../light/slots'
import type { Model } from '../mesh/model'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { plainRadiance } from '../testing/plain-integrator'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses, uniform } from '../testing/setup'
import { accumulate } from './accumulate'
import { createFilm, LOBE_LAYERS, meanChannels, TILE, TILE_STATE, tileCount, tilesAcross, type Film } from './film'
import type { RenderScene } from '../world/render-scene'
import { createFirstHits } from './first-hits'
import { createTracer } from './tracer'
import { renderTile } from './integrate'
import { memory } from './memory'
import { createLayers } from './layers'
import { remix, setMix } from './mix'
import { judgedAfter, tileNoise } from './settle'

const floor = quad('floor', [-5, -1, 5, 5, -1, 5, 5, -1, -5, -5, -1, -5])
const SIZE = 24
const PASSES = 40
const camera = {
  name: 'c',
  position: [0.4, 1.2, 5] as [number, number, number],
  target: [0, -0.2, 0] as [number, number, number],
  fov: 34,
}
const material = (inputs: Record<string, string | number>) => materialOf(mtlx(pbr(inputs)), 's')
const panel = (name: string, x: number, radiance: [number, number, number]) => ({
  name,
  centre: [x, 2.5, 1],
  u: [0, 0, 0.7],
  v: [-0.5, 0.2 * Math.sign(x), 0],
  radiance,
})
const rig = (left: [number, number, number], right: [number, number, number], environment: number): Rig =>
  rigSchema.parse({
    name: 'two',
    environment: { kind: 'uniform', radiance: [environment, environment, environment] },
    panels: [panel('left', -2, left), panel('right', 2, right)],
    backdrop: [0.1, 0.1, 0.1].map(x => x * (environment > 0 ? 1 : 0)),
  })
const layered = material({
  base_color: '0.6, 0.2, 0.1',
  specular_roughness: 0.35,
  coat_weight: 0.8,
  coat_color: '0.8, 0.9, 0.5',
  coat_roughness: 0.1,
  transmission_weight: 0.3,
  emission_luminance: 0.2,
  emission_color: '0.3, 0.6, 1',
})
const matt = material({ base_color: '0.5, 0.5, 0.45', specular_weight: 0 })
const still: Model = { parts: [sphere('ball', 1, 32, 48), floor] }
const sceneWith = (r: Rig): RenderScene => {
  const s = sceneOf(still, [layered, matt], r, camera, SIZE, SIZE)
  return { ...s, lights: readyLights(s.geometry, s.lights, s.materials, s.materialOf) }
}

/** Renders onto a film as a worker does. */
function onFilm(scene: RenderScene, film: Film, passes: number): Film {
  const tracer = createTracer()
  const hits = createFirstHits()
  const rgb = new Float64Array(TILE * TILE * 3)
  const layers = createLayers(film.lights.length, film.lobes.length > 0)
  for (let tile = 0; tile < tileCount(SIZE, SIZE); tile++)
    for (let pass = 0; pass < passes; pass++) {
      const x0 = (tile % tilesAcross(SIZE)) * TILE
      const y0 = Math.floor(tile / tilesAcross(SIZE)) * TILE
      const w = Math.min(TILE, SIZE - x0)
      const h = Math.min(TILE, SIZE - y0)
      renderTile(tracer, scene, x0, y0, w, h, SIZE, SIZE, pass, 0, rgb, hits, layers)
      accumulate(
        film,
        { x0, y0, w, h, rgb, hits, lanes: memory.lanes, layers, materialOf: scene.materialOf },
        pass === 0,
      )
      film.tiles[tile * TILE_STATE.words + TILE_STATE.passes] = pass + 1
    }
  return film
}

describe('a picture kept apart', () => {
  const film = onFilm(
    sceneWith(rig([9, 8, 6], [2, 3, 6], 0.2)),
    createFilm(SIZE, SIZE, { aov: ['lights', 'lobes', 'cost', 'material'], lights: 4 }),
    PASSES,
  )
  const total = (layers: Float64Array[], i: number) => layers.reduce((s, l) => s + l[i]!, 0)
  it('by light adds up to the picture', () =>
    film.sum.forEach((x, i) => expect(total(film.lights, i)).toBeCloseTo(x, 6)))
  it('by lobe adds up to the picture', () =>
    film.sum.forEach((x, i) => expect(total(film.lobes, i)).toBeCloseTo(x, 6)))
  it('is the same picture as without layers, bit for bit', () =>
    expect(onFilm(sceneWith(rig([9, 8, 6], [2, 3, 6], 0.2)), createFilm(SIZE, SIZE), PASSES).sum).toEqual(
      film.sum,
    ))
  it('shows under each light what the scene shows with that light alone', () => {
    // the same integral by other samples: two passes' means agree within their noise over the whole picture
    const alone: [number, Rig][] = [
      [0, rig([9, 8, 6], [0, 0, 0], 0)],
      [1, rig([0, 0, 0], [2, 3, 6], 0)],
    ]
    const dark = meanColour(onFilm(sceneWith(rig([0, 0, 0], [0, 0, 0], 0)), createFilm(SIZE, SIZE), 64).sum, 64)
    for (const [light, r] of alone) {
      const expected = meanColour(onFilm(sceneWith(r), createFilm(SIZE, SIZE), 64).sum, 64).map(
        (x, k) => x - dark[k]!,
      )
      meanColour(film.lights[light]!, PASSES).forEach((x, k) =>
        expect(Math.abs(x / expected[k]! - 1)).toBeLessThan(0.06),
      )
    }
  })
  it('a matt floor has nothing but diffuse; the backdrop is background', () => {
    const names = (i: number) => LOBE_LAYERS.filter((_, l) => film.lobes[l]![i * 3 + 1]! !== 0)
    expect(film.aov.material![SIZE * (SIZE - 1) + 1]).toBe(1)
    expect(names(SIZE * (SIZE - 1) + 1)).toEqual(['diffuse'])
    expect(names(0)).toEqual(['background'])
    expect(film.aov.material![0]).toBe(-1)
    expect(names(SIZE * 11 + 11)).toEqual(['diffuse', 'specular', 'transmission', 'coat', 'emission'])
  })
  it('costs at least a ray a pass, more where paths go on', () => {
    film.cost.forEach(c => expect(c).toBeGreaterThanOrEqual(PASSES))
    expect(film.cost[SIZE * 11 + 11]).toBeGreaterThan(film.cost[0]! * 2)
  })
  it('is written with a layer for each, whatever the lights are called', () => {
    const names = [...meanChannels(film, PASSES, ['a.b', 'a.b', '', 'key'], true).keys()]
    for (const n of [
      'light_a_b.R',
      'light_a_b_2.G',
      'light_unnamed.B',
      'light_key.R',
      'lobe_coat.R',
      'cost.rays',
      'samples.n',
      'material.id',
    ])
      expect(names).toContain(n)
  })
})

describe('lights mixed anew', () => {
  it('is the picture of the dimmed rig, to rounding, and goes on as such', () => {
    // greys: radiance is linear in each light, so the same paths with other lights give the same mix (closed form)
    const film = onFilm(
      sceneWith(rig([8, 8, 8], [4, 4, 4], 0.2)),
      createFilm(SIZE, SIZE, { aov: ['lights'], lights: 4 }),
      4,
    )
    const before = film.sum.slice()
    setMix(film, [0.5, 0.5, 0.5, 0, 0, 0, 2, 2, 2, 1, 1, 1])
    expect(remix(film)).toBe(true)
    expect(remix(film)).toBe(false)
    film.sum.forEach((x, i) =>
      expect(x).toBeCloseTo(0.5 * film.lights[0]![i]! + 2 * film.lights[2]![i]! + film.lights[3]![i]!, 9),
    )
    expect(film.sum).not.toEqual(before)
    const more = onFilm(sceneWith(rig([8, 8, 8], [4, 4, 4], 0.2)), film, 8)
    more.sum.forEach((x, i) =>
      expect(x).toBeCloseTo(0.5 * film.lights[0]![i]! + 2 * film.lights[2]![i]! + film.lights[3]![i]!, 9),
    )
  })
})

describe('parts that shine', () => {
  const lamp = quad('lamp', [-0.5, 1, -0.5, 0.5, 1, -0.5, 0.5, 1, 0.5, -0.5, 1, 0.5])
  const ground = quad('floor', [-5, 0, 5, 5, 0, 5, 5, 0, -5, -5, 0, -5])
  const shining = material({
    base_weight: 0,
    specular_weight: 0,
    emission_luminance: 3,
    emission_color: '1, 1, 1',
  })
  const model: Model = { parts: [lamp, ground] }
  const below = {
    name: 'c',
    position: [0.02, 0.6, 0.02] as [number, number, number],
    target: [0, 0, 0] as [number, number, number],
    fov: 1,
  }
  const scene = (drawn: boolean) => {
    const s = sceneOf(
      model,
      [shining, material({ base_color: '0.6, 0.6, 0.6', specular_weight: 0 })],
      uniform(0),
      below,
      8,
      8,
    )
    return drawn ? { ...s, lights: readyLights(s.geometry, s.lights, s.materials, s.materialOf) } : s
  }
  it('light a floor by Lambert’s polygon formula (1760), drawn or not', () => {
    const L = 3
    const corners = [
      [-0.5, 1, -0.5],
      [0.5, 1, -0.5],
      [0.5, 1, 0.5],
      [-0.5, 1, 0.5],
    ]
    let E = 0
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % 4]!
      const angle = Math.acos(
        (a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!) / Math.hypot(...a) / Math.hypot(...b),
      )
      const c = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!]
      E += ((L / 2) * angle * c[1]!) / Math.hypot(...c)
    })
    const spread = (s: Float64Array) => {
      const m = meanColour(s, 64)[1]!
      let v = 0
      for (let i = 1; i < s.length; i += 3) v += (s[i]! / 64 - m) ** 2
      return Math.sqrt(v / (s.length / 3))
    }
    const drawn = sumOfPasses(scene(true), 8, 8, 0, 64)
    const found = sumOfPasses(scene(false), 8, 8, 0, 64)
    expect(meanColour(drawn, 64)[1]).toBeCloseTo((0.6 * Math.abs(E)) / Math.PI, 2)
    expect(meanColour(found, 64)[1]! / ((0.6 * Math.abs(E)) / Math.PI)).toBeCloseTo(1, 1)
    expect(spread(drawn)).toBeLessThan(spread(found) / 3)
  })
  it('agree with the plain integrator where balls of many triangles shine between others', () => {
    const parts: Model = {
      parts: [
        { ...sphere('lamp', 0.4, 12, 16) },
        floor,
        (() => {
          const b = sphere('ball', 0.5, 16, 24)
          return { ...b, position: b.position.map((x, i) => (i % 3 === 0 ? x + 1.1 : x)) }
        })(),
      ],
    }
    const materials = [
      material({ base_weight: 0, specular_weight: 0, emission_luminance: 4, emission_color: '1, 0.8, 0.5' }),
      matt,
      material({ base_color: '0.2, 0.5, 0.3', specular_roughness: 0.2, base_metalness: 1 }),
    ]
    const s = sceneOf(parts, materials, uniform(0.02), camera, 12, 12)
    const drawn = { ...s, lights: readyLights(s.geometry, s.lights, s.materials, s.materialOf) }
    expect(drawn.lights.emitters!.tree.nodes.length / NODE.stride).toBeGreaterThan(500)
    const mean = meanColour(sumOfPasses(drawn, 12, 12, 0, 160), 160)
    const found = meanColour(sumOfPasses(s, 12, 12, 0, 500), 500)
    const plain = plainRadiance(s, 12, 12, 3000)
    mean.forEach((x, k) => expect(Math.abs(x / found[k]! - 1)).toBeLessThan(0.02))
    // its noise is ten times ours: 10 000 samples a pixel came to within 3 %
    mean.forEach((x, k) => expect(Math.abs(x / plain[k]! - 1)).toBeLessThan(0.1))
  })
  it('lights number panels, environment and emission', () => expect(scene(true).lights.layerCount).toBe(2))
})

describe('settling', () => {
  it('judges after 16, 24, 32, 48, 64 … passes', () =>
    expect(Array.from({ length: 128 }, (_, i) => i + 1).filter(n => judgedAfter(n, 16))).toEqual([
      16, 24, 32, 48, 64, 96, 128,
    ]))
  it('takes the standard error of the mean over the mean', () => {
    // 16 samples, half of them 1 and half 3: variance 1, standard error √(1/15), mean 2 (closed form)
    const film = createFilm(4, 4, { squares: true })
    film.sum.fill(32)
    film.square.fill(8 * 1 + 8 * 9)
    expect(tileNoise(film, 0, 16)).toBeCloseTo(Math.sqrt(1 / 15) / 2.02, 12)
  })
})
