import { describe, expect, it } from 'vitest'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { rigSchema } from '../scene/rig'
import { cameraFrame, type Camera } from '../scene/camera'
import { materialOf, mtlx, pbr, sceneOf } from '../testing/setup'
import { createFilm, TILE, type Level } from './film'
import { createFirstHits } from './first-hits'
import { createTracer } from './tracer'
import { renderTile } from './integrate'
import { keepLevel, reuse, type Seen } from './reuse'

const W = 48
const H = 30
const matt = (colour: string) => materialOf(mtlx(pbr({ base_color: colour, specular_weight: 0 })), 's')
const rig = rigSchema.parse({
  name: 'r',
  environment: { kind: 'uniform', radiance: [0.2, 0.2, 0.2] },
  panels: [{ name: 'p', centre: [2, 3, 2], u: [0.5, 0, -0.5], v: [0, 0.5, 0], radiance: [20, 20, 20] }],
})
const model = {
  parts: [quad('ground', [-4, -0.5, 4, 4, -0.5, 4, 4, -0.5, -4, -4, -0.5, -4]), sphere('ball', 0.5, 24, 40)],
}
const around = (degrees: number): Camera => {
  const a = (degrees * Math.PI) / 180
  return { name: 'c', position: [3 * Math.sin(a), 1, 3 * Math.cos(a)], target: [0, 0, 0], fov: 35 }
}

function seen(degrees: number, passes: number, seed: number): Seen {
  const camera = cameraFrame(around(degrees), W, H)
  const scene = {
    ...sceneOf(model, [matt('0.6, 0.5, 0.4'), matt('0.7, 0.2, 0.1')], rig, around(degrees), W, H),
    maxOpaque: 1,
  }
  const level = createFilm(W, H, { levels: [{ width: W, height: H }] }).levels[0]!
  const tracer = createTracer()
  const tile = new Float64Array(TILE * TILE * 3)
  const hits = createFirstHits()
  for (let pass = 0; pass < passes; pass++)
    for (let y0 = 0; y0 < H; y0 += TILE)
      for (let x0 = 0; x0 < W; x0 += TILE) {
        const w = Math.min(TILE, W - x0)
        const h = Math.min(TILE, H - y0)
        renderTile(tracer, scene, x0, y0, w, h, W, H, pass, seed, tile, hits)
        for (let i = 0; i < w * h; i++) {
          const o = (y0 + Math.floor(i / w)) * W + x0 + (i % w)
          for (let k = 0; k < 3; k++) {
            level.rgb[o * 3 + k]! += tile[i * 3 + k]! / passes
            level.normal[o * 3 + k] = hits.normal[i * 3 + k]!
          }
          level.part[o] = hits.part[i]!
          level.depth[o] = hits.depth[i]!
        }
      }
  return { level, camera }
}
const errorOf = (rgb: Float32Array, reference: Level) =>
  rgb.reduce((s, x, i) => s + (x - reference.rgb[i]!) ** 2, 0)

describe('coarse pictures while the camera moves', () => {
  const out = new Float32Array(W * H * 3)
  it.each([1, 3, 8])('have less error where they are joined with the one before, %s° away', step => {
    const reference = seen(20 + step, 128, 99).level
    let own = 0
    let together = 0
    for (let seed = 1; seed <= 6; seed++) {
      const now = seen(20 + step, 1, seed * 7)
      const before = seen(20, 1, seed * 7 + 3)
      reuse(now, before, out)
      own += errorOf(now.level.rgb, reference)
      together += errorOf(out, reference)
    }
    // the mean of two samples has half the variance of one; what only one of them sees keeps its own
    expect(together / own).toBeLessThan(0.8)
    expect(together / own).toBeGreaterThan(0.4)
  })
  it('take nothing from another part, another spot, behind the camera or another size', () => {
    const now = seen(20, 1, 5)
    const loud = (s: Seen): Seen => ({ ...s, level: { ...s.level, rgb: s.level.rgb.map(x => x + 100) } })
    const moved = loud(seen(20, 1, 6))
    moved.level.part = moved.level.part.map(p => (p < 0 ? p : 1 - p))
    const far = loud(seen(20, 1, 6))
    far.level.depth = far.level.depth.map(d => d * 1.2)
    for (const before of [
      moved,
      far,
      loud(seen(200, 1, 6)),
      { level: { ...now.level, width: W / 2, height: H * 2 }, camera: now.camera },
    ]) {
      // from the other side only the ground is the same, and there no further than its own neighbours reach
      reuse(now, before, out)
      const highest = Math.max(...now.level.rgb)
      expect(Math.max(...out)).toBeLessThanOrEqual(highest)
      if (before !== moved && before !== far) continue
      expect(out).toEqual(now.level.rgb)
    }
  })
  it('are means of both under the same camera, and what is kept is a copy', () => {
    const a = seen(20, 1, 5)
    const b = seen(20, 1, 6)
    const kept = keepLevel(b.level, undefined)
    const again = keepLevel(a.level, kept)
    expect(again).toBe(kept)
    expect(kept.rgb).toEqual(a.level.rgb)
    expect(kept.rgb.buffer).not.toBe(a.level.rgb.buffer)
    reuse({ ...a, level: { ...a.level, rgb: a.level.rgb.map(() => 0) } }, b, out)
    // neighbours that are all black let nothing of the earlier picture in
    expect(Math.max(...out)).toBe(0)
    const middle = ((H / 2) * W + W / 2) * 3
    reuse({ ...a, level: { ...a.level, rgb: a.level.rgb.map((_, i) => (i % 6 < 3 ? 0 : 10)) } }, b, out)
    expect(out[middle]).toBeCloseTo(b.level.rgb[middle]! / 2, 5)
  })
})
