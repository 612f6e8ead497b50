/**
 * A slow, plain path tracer for the tests: directions drawn uniformly over the sphere, no drawn lights, no
 * multiple importance, no roulette, one ray a call, wavelengths drawn evenly over the grid with no control
 * variate. It shares the surfaces and the hierarchy with the renderer, nothing of how light is gathered.
 */
import { d65, reflectanceScale, xBar, yBar, zBar } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { basisB, basisG, basisR } from '../colour/upsample'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import type { RenderScene } from '../world/render-scene'
import { beginSurface } from '../surface/begin'
import { evaluate } from '../surface/evaluate'
import { finishSurface } from '../surface/finish'
import { memory } from '../surface/memory'
import { castClosest, createRayBatch } from '../trace/cast'
import { PANEL } from '../light/slots'

const { basis, emission, lane, value } = memory

let state = 12345
const random = () => {
  state ^= state << 13
  state ^= state >>> 17
  state ^= state << 5
  return (state >>> 0) / 4294967296
}

/** Mean linear Rec.709 over the picture. */
export function plainRadiance(scene: RenderScene, width: number, height: number, samples: number): number[] {
  const ray = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  const total = [0, 0, 0]
  const { camera, lights } = scene
  for (let s = 0; s < width * height * samples; s++) {
    // the tent filter reaches one pixel beyond the frame's edge, like the renderer's
    const tent = () => random() + random() - 1
    const px = (s % width) + 0.5 + tent()
    const py = (Math.floor(s / width) % height) + 0.5 + tent()
    const x = (2 * px) / width - 1
    const y = 1 - (2 * py) / height
    let d = [0, 1, 2].map(k => camera[3 + k]! * x + camera[6 + k]! * y + camera[9 + k]!)
    let o = Array.from(camera.subarray(0, 3))
    const l = Math.hypot(...d)
    d = d.map(v => v / l)
    const g = Math.floor(random() * 401)
    for (let k = 0; k < 4; k++) {
      lane[k] = g
      basis.set([basisR[g]!, basisG[g]!, basisB[g]!], k * 3)
    }
    const colour = (rgb: ArrayLike<number>, at = 0) =>
      basis[0]! * rgb[at]! + basis[1]! * rgb[at + 1]! + basis[2]! * rgb[at + 2]!
    let f = 1
    let L = 0
    for (let bounce = 0; bounce < 9; bounce++) {
      ray.origin.set(o)
      ray.direction.set(d)
      ray.distance[0] = Infinity
      castClosest(scene.geometry.hierarchy, ray, 1)
      let far = ray.triangle[0]! >= 0 ? ray.distance[0]! : Infinity
      let panel = -1
      for (let i = 0; i < lights.panelCount && bounce > 0; i++) {
        const p = lights.panels.subarray(i * PANEL.stride, (i + 1) * PANEL.stride)
        const facing = d[0]! * p[9]! + d[1]! * p[10]! + d[2]! * p[11]!
        if (facing >= 0) continue
        const t = ((p[0]! - o[0]!) * p[9]! + (p[1]! - o[1]!) * p[10]! + (p[2]! - o[2]!) * p[11]!) / facing
        const q = [0, 1, 2].map(k => o[k]! + t * d[k]! - p[k]!)
        const along = (n: number) =>
          (q[0]! * p[n]! + q[1]! * p[n + 1]! + q[2]! * p[n + 2]!) / (p[n]! ** 2 + p[n + 1]! ** 2 + p[n + 2]! ** 2)
        if (t > 1e-6 && t < far && Math.abs(along(3)) <= 1 && Math.abs(along(6)) <= 1) {
          far = t
          panel = i
        }
      }
      if (panel >= 0) {
        L += f * colour(lights.panels, panel * PANEL.stride + PANEL.radiance)
        break
      }
      if (ray.triangle[0]! < 0) {
        L += f * colour(lights.environment)
        break
      }
      fillPoint(scene.geometry, ray, 0, ray.direction, 0, S)
      const material = scene.materials[scene.materialOf[S[POINT.part]!]!]!
      beginSurface(-d[0]!, -d[1]!, -d[2]!, S[6]!, S[7]!, S[8]!)
      material.shader.shade(S, material.constants, material.shader.images)
      const scatters = finishSurface()
      L += f * emission[0]!
      if (!scatters) break
      const z = 2 * random() - 1
      const a = 2 * Math.PI * random()
      const r = Math.sqrt(1 - z * z)
      const n = [r * Math.cos(a), r * Math.sin(a), z]
      evaluate(n[0]!, n[1]!, n[2]!)
      f *= value[0]! * 4 * Math.PI
      if (!(f > 0)) break
      const side = n[0]! * S[6]! + n[1]! * S[7]! + n[2]! * S[8]! > 0 ? 1e-7 : -1e-7
      o = [0, 1, 2].map(k => S[k]! + side * S[6 + k]!)
      d = n
    }
    const power = L * d65[g]! * reflectanceScale * 401
    const rgb = transform(xyzToRec709, [xBar[g]! * power, yBar[g]! * power, zBar[g]! * power])
    for (let k = 0; k < 3; k++) total[k]! += rgb[k]!
  }
  return total.map(t => t / (width * height * samples))
}
