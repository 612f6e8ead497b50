import { describe, expect, it } from 'vitest'
import { rigSchema } from '../scene/rig'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { materialOf, mtlx, pbr, sceneOf } from '../testing/setup'
import { TILE } from './film'
import type { RenderScene } from '../world/render-scene'
import { createTracer } from './tracer'
import { renderTile } from './integrate'
import { createLayers, toRec709, type Layers } from './layers'
import { memory } from './memory'

const material = (inputs: Record<string, string | number>) => materialOf(mtlx(pbr(inputs)), 's')
const floor = quad('floor', [-5, -1, 5, 5, -1, 5, 5, -1, -5, -5, -1, -5])
const camera = {
  name: 'c',
  position: [0.4, 1.2, 5] as [number, number, number],
  target: [0, -0.2, 0] as [number, number, number],
  fov: 34,
}
const rig = rigSchema.parse({
  name: 'r',
  environment: { kind: 'uniform', radiance: [0.2, 0.3, 0.4] },
  panels: [{ name: 'p', centre: [2, 2.5, 1], u: [0, 0, 0.2], v: [-0.15, 0.06, 0], radiance: [60, 50, 40] }],
})
const scene = sceneOf(
  { parts: [sphere('ball', 1, 32, 48), floor] },
  [
    material({ base_color: '0.6, 0.2, 0.1', specular_roughness: 0.2, coat_weight: 0.8 }),
    material({ base_color: '0.5, 0.5, 0.45' }),
  ],
  rig,
  camera,
  TILE,
  TILE,
)
const lamp = sceneOf(
  { parts: [sphere('ball', 1, 32, 48)] },
  [material({ base_weight: 0, specular_weight: 0, emission_luminance: 50, emission_color: '1, 0.5, 0.2' })],
  rig,
  camera,
  TILE,
  TILE,
)

function tileOf(s: RenderScene, clamp: number, layers: Layers | null = null, pass = 0): Float64Array {
  const out = new Float64Array(TILE * TILE * 3)
  renderTile(createTracer(), { ...s, clamp }, 0, 0, TILE, TILE, TILE, TILE, pass, 3, out, null, layers)
  return out
}

const LIMIT = 0.12

describe('fireflies that are held', () => {
  it('brings what it would bring anyway up to the limit, and beyond it the limit in the same colour', () => {
    const free = tileOf(scene, 0)
    const held = tileOf(scene, LIMIT)
    let counted = 0
    // what lies behind is seen directly, and stays
    for (let o = 0; o < free.length; o += 3) {
      const most = Math.max(free[o]!, free[o + 1]!, free[o + 2]!)
      const share = most > LIMIT ? LIMIT / most : 1
      if (held[o] === free[o]) continue
      counted++
      for (let k = 0; k < 3; k++) expect(held[o + k]).toBeCloseTo(free[o + k]! * share, 8)
    }
    expect(counted).toBeGreaterThan(30)
    expect(tileOf(scene, 1e6)).toEqual(free)
  })
  it('leaves alone what the camera sees directly', () => {
    const free = tileOf(lamp, 0)
    expect(Math.max(...free)).toBeGreaterThan(40)
    expect(tileOf(lamp, 1)).toEqual(free)
  })
  it('holds lights and lobes in step: they still add up to the picture', () => {
    const layers = createLayers(scene.lights.layerCount, true)
    const held = tileOf(scene, 0.25, layers)
    const part = new Float64Array(3)
    for (const [of, count] of [
      [layers.light, layers.lights],
      [layers.lobe, (layers.lobe.length / layers.light.length) * layers.lights],
    ] as const) {
      for (let path = 0; path < TILE * TILE; path++) {
        const sum = [0, 0, 0]
        for (let layer = 0; layer < count; layer++) {
          toRec709(of, (layer * TILE * TILE + path) * 7, memory.lanes, path * 4, part, 0)
          for (let k = 0; k < 3; k++) sum[k]! += part[k]!
        }
        for (let k = 0; k < 3; k++) expect(sum[k]).toBeCloseTo(held[path * 3 + k]!, 7)
      }
    }
  })
})
