/** The edges of the triangles that a camera sees, as lines over its picture. */
import type { Geometry } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'
import { loadTriangle, triangle } from '../trace/triangle'

/** Half of a line's width and of its soft rim, pixels. */
const HALF = 0.5
const RIM = 0.7
/** Heights of triangles, pixels, below which their lines begin to fade, and are gone: they would fill the picture. */
const FADES = 4
const GONE = 1

/** Barycentric coordinates (of the second and third corner) where the ray from E along (x, y, z) meets the plane. */
const bary = new Float64Array(2)
function meetPlane(E: Float64Array, x: number, y: number, z: number): void {
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
  const t = ((ax - E[0]!) * nx + (ay - E[1]!) * ny + (az - E[2]!) * nz) / (x * nx + y * ny + z * nz)
  const px = E[0]! + t * x - ax
  const py = E[1]! + t * y - ay
  const pz = E[2]! + t * z - az
  const n = nx * nx + ny * ny + nz * nz
  // p = u e₁ + v e₂: cross products with the other edge, along the normal
  bary[0] = ((py * e2z - pz * e2y) * nx + (pz * e2x - px * e2z) * ny + (px * e2y - py * e2x) * nz) / n
  bary[1] = ((e1y * pz - e1z * py) * nx + (e1z * px - e1x * pz) * ny + (e1x * py - e1y * px) * nz) / n
}

/**
 * Lines of rows [first, end) of a picture: 255 where an edge runs through a pixel's centre, 0 where none is near.
 * @param camera frame of a camera; seen through a pinhole
 * @returns one byte a pixel
 */
export function triangleEdges(
  { hierarchy }: Pick<Geometry, 'hierarchy'>,
  camera: Float64Array,
  width: number,
  height: number,
  [first, end]: readonly [number, number],
): Uint8Array {
  const out = new Uint8Array(width * Math.max(0, end - first))
  const rays = createRayBatch(width)
  const right = Float64Array.from([0, 1, 2], k => (camera[3 + k]! * 2) / width)
  const down = Float64Array.from([0, 1, 2], k => (-camera[6 + k]! * 2) / height)
  const d = new Float64Array(3)
  const aim = (x: number, y: number) => {
    for (let k = 0; k < 3; k++)
      d[k] = camera[9 + k]! - camera[3 + k]! + camera[6 + k]! + (x + 0.5) * right[k]! + (y + 0.5) * down[k]!
  }
  for (let y = first; y < end; y++) {
    for (let x = 0; x < width; x++) {
      aim(x, y)
      const l = Math.hypot(d[0]!, d[1]!, d[2]!)
      for (let k = 0; k < 3; k++) {
        rays.origin[x * 3 + k] = camera[k]!
        rays.direction[x * 3 + k] = d[k]! / l
      }
      rays.distance[x] = Infinity
    }
    castClosest(hierarchy, rays, width)
    for (let x = 0; x < width; x++) {
      const place = rays.triangle[x]!
      if (place < 0) continue
      loadTriangle(hierarchy, place)
      aim(x, y)
      meetPlane(camera, d[0]!, d[1]!, d[2]!)
      const u = bary[0]!
      const v = bary[1]!
      meetPlane(camera, d[0]! + right[0]!, d[1]! + right[1]!, d[2]! + right[2]!)
      const ux = bary[0]! - u
      const vx = bary[1]! - v
      meetPlane(camera, d[0]! + down[0]!, d[1]! + down[1]!, d[2]! + down[2]!)
      const uy = bary[0]! - u
      const vy = bary[1]! - v
      // how much each coordinate changes over a pixel: one over the triangle's height on that edge
      const gu = Math.hypot(ux, uy)
      const gv = Math.hypot(vx, vy)
      const gw = Math.hypot(ux + vx, uy + vy)
      const off = Math.min(u / gu, v / gv, (1 - u - v) / gw)
      const size = 1 / Math.max(gu, gv, gw)
      const line = Math.min(1, Math.max(0, (HALF + RIM - off) / RIM))
      const seen = Math.min(1, Math.max(0, (size - GONE) / (FADES - GONE)))
      out[(y - first) * width + x] = Math.round(255 * line * seen) || 0
    }
  }
  return out
}
