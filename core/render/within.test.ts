import { describe, expect, it } from 'vitest'
import { readyLights } from '../light/ready'
import { sphere } from '../mesh/sphere'
import { rigSchema, type Rig } from '../scene/rig'
import type { Camera } from '../scene/camera'
import { box } from '../testing/box'
import { generator } from '../testing/generator'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'
import type { RenderScene } from '../world/render-scene'

const one = (inputs: Record<string, string | number>) => materialOf(mtlx(pbr(inputs)), 's')
const grey = (x: number) => `${x}, ${x}, ${x}`

/** Matter of index one: absorbs and scatters so much a metre. */
const matter = (absorbs: number, scatters: number, more: Record<string, string | number> = {}) =>
  one({
    transmission_weight: 1,
    specular_roughness: 0,
    specular_ior: 1,
    // what is left after a metre; of what is lost, this much is scattered
    transmission_color: grey(Math.exp(-absorbs - scatters)),
    transmission_depth: 1,
    transmission_scatter: grey(scatters),
    ...more,
  })

const dark = (panels: unknown[]): Rig =>
  rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, panels })

/** A ball of light about the origin of a rig. */
const lamp = (centre: number[], radius: number, radiance: number) => ({
  name: 'lamp',
  shape: 'ball',
  centre,
  u: [radius, 0, 0],
  v: [0, radius, 0],
  radiance: [radiance, radiance, radiance],
})

const ready = (scene: RenderScene): RenderScene => ({
  ...scene,
  lights: readyLights(scene.geometry, scene.lights, scene.materials, scene.materialOf),
})

const mean = (scene: RenderScene, passes: number, size = 8) =>
  meanColour(sumOfPasses(scene, size, size, 0, passes), passes)[1]!

/** Far away, so that it looks along parallel lines at a square of this half side about the origin. */
const far = (half: number): Camera => ({
  name: 'c',
  position: [0, 0, 200],
  target: [0, 0, 0],
  fov: (2 * Math.atan(half / 200) * 180) / Math.PI,
})

/**
 * Share of a lamp's light that leaves a ball about it: a walk of its own, from the lamp outwards, where the renderer
 * goes from the camera inwards. Scattering has the mean cosine g (Henyey & Greenstein 1941).
 */
function shareThatLeaves(lampRadius: number, absorbs: number, scatters: number, g: number, n: number): number {
  const random = generator(7)
  const sigma = absorbs + scatters
  let left = 0
  for (let i = 0; i < n; i++) {
    // from a point of the lamp, by Lambert's cosine; the lamp's own middle is the origin
    const mu = Math.sqrt(random())
    let p = [0, 0, lampRadius]
    let d = turn([0, 0, 1], mu, 2 * Math.PI * random())
    for (;;) {
      const t = -Math.log(1 - random()) / sigma
      const b = p[0]! * d[0]! + p[1]! * d[1]! + p[2]! * d[2]!
      const pp = p[0]! ** 2 + p[1]! ** 2 + p[2]! ** 2
      const out = -b + Math.sqrt(b * b - pp + 1)
      const inner = b * b - pp + lampRadius ** 2
      const lampAt = inner > 0 && b < 0 && pp > lampRadius ** 2 * (1 + 1e-12) ? -b - Math.sqrt(inner) : Infinity
      if (lampAt > 0 && lampAt < Math.min(t, out)) break
      if (t >= out) {
        left++
        break
      }
      if (random() >= scatters / sigma) break
      p = p.map((x, k) => x + t * d[k]!)
      const q = (1 - g * g) / (1 - g + 2 * g * random())
      d = turn(d, g === 0 ? 1 - 2 * random() : (1 + g * g - q * q) / (2 * g), 2 * Math.PI * random())
    }
  }
  return left / n
}

/** A direction at an angle from d. */
function turn(d: number[], cosine: number, about: number): number[] {
  const a = Math.abs(d[0]!) < 0.9 ? [1, 0, 0] : [0, 1, 0]
  const cross = (u: number[], v: number[]) =>
    [0, 1, 2].map(k => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!)
  const x = cross(a, d)
  const l = Math.hypot(...x)
  const s = x.map(c => c / l)
  const t = cross(d, s)
  const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine))
  const n = d.map((c, k) => cosine * c + sine * (Math.cos(about) * s[k]! + Math.sin(about) * t[k]!))
  const length = Math.hypot(...n)
  return n.map(c => c / length)
}

describe('lamps in matter', () => {
  const floor = box('floor', [0, -0.1, 0], [40, 0.2, 40])
  const white = one({ base_color: grey(0.8), specular_weight: 0, base_diffuse_roughness: 0 })

  it.each([
    ['absorbs', 0.3, 0],
    ['absorbs much', 1.1, 0],
  ])('a floor under liquid that %s is lit by what is left (Beer–Lambert, Lambert)', (_, absorbs, scatters) => {
    // straight down from the lamp, seen from beside it; only the floor's middle is looked at
    const rig = dark([lamp([0, 3, 0], 0.05, 1000)])
    const camera = {
      name: 'c',
      position: [0, 1.5, 2] as [number, number, number],
      target: [0, 0, 0] as [number, number, number],
      fov: 0.5,
    }
    const scene = sceneOf(
      { parts: [box('liquid', [0, 4.9, 0], [60, 10, 60]), floor] },
      [matter(absorbs, scatters), white],
      rig,
      camera,
      4,
      4,
    )
    scene.priorityOf[1] = 1
    // E = π·L·r²/d²; the lamp and the camera lie within; its near face is two thirds of r nearer in the mean
    const wanted = 0.8 * 1000 * (0.05 / 3) ** 2 * Math.exp(-absorbs * (3 - (2 / 3) * 0.05 + 2.5))
    for (const s of [scene, ready(scene)]) expect(Math.abs(mean(s, 64, 4) / wanted - 1)).toBeLessThan(0.01)
  })

  it('thin fog beside a lamp shines by single scattering', () => {
    const sigma = 0.0005
    const r = 0.1
    const rig = dark([lamp([0, 0, 0], r, 500)])
    const camera = {
      name: 'c',
      position: [1, 0, 4] as [number, number, number],
      target: [1, 0, 0] as [number, number, number],
      fov: 0.2,
    }
    const scene = ready(
      sceneOf({ parts: [box('fog', [0, 0, 0], [12, 12, 12])] }, [matter(0, sigma)], rig, camera, 4, 4),
    )
    // ∫ σ/4π · E₀ · exp(−σ(t + d)) dt along the camera's way, E₀ = π·L·r²/d²
    let wanted = 0
    const steps = 20000
    for (let i = 0; i < steps; i++) {
      const t = ((i + 0.5) / steps) * 10
      const d2 = 1 + (4 - t) ** 2
      wanted +=
        ((sigma / (4 * Math.PI)) * Math.PI * 500 * r * r * Math.exp(-sigma * (t + Math.sqrt(d2))) * 10) /
        steps /
        d2
    }
    expect(Math.abs(mean(scene, 200, 4) / wanted - 1)).toBeLessThan(0.015)
  })

  it.each([
    ['clear', 0, 1e-9, 0, 0.01],
    ['thin', 0, 0.5, 0, 0.02],
    ['scattering', 0, 2, 0, 0.02],
    ['dense', 0, 8, 0, 0.05],
    ['absorbing too', 0.4, 2, 0, 0.02],
    ['forward', 0.2, 6, 0.8, 0.05],
    ['backward', 0.2, 3, -0.5, 0.03],
  ] as [string, number, number, number, number][])(
    'as much light leaves a ball of matter that is %s as in a walk of the test’s own',
    (_, absorbs, scatters, g, tolerance) => {
      const r = 0.4
      const half = 1.125
      const rig = dark([lamp([0, 0, 0], r, 10)])
      const body = matter(absorbs, scatters, { transmission_scatter_anisotropy: g })
      const scene = ready(sceneOf({ parts: [sphere('ball', 1, 96, 192)] }, [body], rig, far(half), 32, 32))
      // the power π·L·4πr² leaves evenly: intensity over the square that is looked at
      const share = shareThatLeaves(r, absorbs, Math.max(scatters, 1e-12), g, 200000)
      const wanted = (share * Math.PI * 10 * r * r) / (4 * half * half)
      expect(Math.abs(mean(scene, 40, 32) / wanted - 1)).toBeLessThan(tolerance)
    },
  )

  it.each([
    ['a shining part', 3],
    ['the same, dense', 8],
  ])('%s within milk brings as much as in that walk', (_, scatters) => {
    const r = 0.4
    const half = 1.125
    const shining = one({ base_weight: 0, specular_weight: 0, emission_luminance: 10, emission_color: grey(1) })
    const scene = ready(
      sceneOf(
        { parts: [sphere('ball', 1, 96, 192), sphere('lamp', r, 96, 192)] },
        [matter(0, scatters), shining],
        dark([]),
        far(half),
        32,
        32,
      ),
    )
    const share = shareThatLeaves(r, 0, scatters, 0, 200000)
    const wanted = (share * Math.PI * 10 * r * r) / (4 * half * half)
    expect(Math.abs(mean(scene, 40, 32) / wanted - 1)).toBeLessThan(0.05)
  })

  it('the same comes by drawn directions alone, from lamps of every kind and through faces that let it pass', () => {
    const rig = rigSchema.parse({
      name: 'r',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels: [
        lamp([0.3, 0.2, 0], 0.25, 6),
        { name: 'within', centre: [-0.5, 0, 0], u: [0, 0.4, 0], v: [0, 0, 0.4], radiance: [5, 2, 1] },
        { name: 'without', centre: [0, 3, 0], u: [0, 0, 2], v: [2, 0, 0], radiance: [3, 3, 9] },
      ],
    })
    const body = { ...matter(0.1, 3), straight: true }
    const scene = ready(sceneOf({ parts: [sphere('ball', 1, 48, 96)] }, [body], rig, far(1), 8, 8))
    const both = mean(scene, 150)
    const directions = mean({ ...scene, lights: { ...scene.lights, gather: 'directions' } }, 600)
    expect(Math.abs(both / directions - 1)).toBeLessThan(0.06)
  })
})
