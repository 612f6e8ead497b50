import { cameraFrame, type Camera } from './camera'

type Vector = [number, number, number]
const offset = (c: Camera): Vector => [0, 1, 2].map(k => c.position[k]! - c.target[k]!) as Vector

/** Turns a camera about its target, degrees. The poles are kept clear. */
export function orbit(c: Camera, yaw: number, pitch: number): Camera {
  const [x, y, z] = offset(c)
  const r = Math.hypot(x, y, z)
  const a = Math.atan2(x, z) + (yaw * Math.PI) / 180
  const b = Math.min(1.55, Math.max(-1.55, Math.asin(y / r) + (pitch * Math.PI) / 180))
  return {
    ...c,
    position: [
      c.target[0] + r * Math.cos(b) * Math.sin(a),
      c.target[1] + r * Math.sin(b),
      c.target[2] + r * Math.cos(b) * Math.cos(a),
    ],
  }
}

/** Moves a camera sideways and up by shares of the picture's height. */
export function pan(c: Camera, dx: number, dy: number): Camera {
  const f = cameraFrame(c, 1, 1)
  const d = Math.hypot(...offset(c))
  const move = [0, 1, 2].map(k => (-f[3 + k]! * dx + f[6 + k]! * dy) * 2 * d) as Vector
  return {
    ...c,
    position: c.position.map((x, k) => x + move[k]!) as Vector,
    target: c.target.map((x, k) => x + move[k]!) as Vector,
  }
}

/** Brings a camera nearer to its target or further from it. */
export function dolly(c: Camera, factor: number): Camera {
  const o = offset(c)
  return { ...c, position: c.target.map((x, k) => x + o[k]! * factor) as Vector }
}

/** Where a point of the scene lies in the picture, pixels; undefined behind the camera. */
export function project(
  c: Camera,
  p: ArrayLike<number>,
  width: number,
  height: number,
): { x: number; y: number } | undefined {
  const f = cameraFrame(c, width, height)
  const d = [0, 1, 2].map(k => p[k]! - f[k]!)
  const dot = (o: number) => d[0]! * f[o]! + d[1]! * f[o + 1]! + d[2]! * f[o + 2]!
  const square = (o: number) => f[o]! ** 2 + f[o + 1]! ** 2 + f[o + 2]! ** 2
  const z = dot(9)
  return z > 0
    ? { x: ((1 + dot(3) / square(3) / z) / 2) * width, y: ((1 - dot(6) / square(6) / z) / 2) * height }
    : undefined
}

/** Ray through a point of the picture: ox oy oz dx dy dz. */
export function rayThrough(c: Camera, x: number, y: number, width: number, height: number): number[] {
  const f = cameraFrame(c, width, height)
  const a = (2 * x) / width - 1
  const b = 1 - (2 * y) / height
  const d = [0, 1, 2].map(k => f[3 + k]! * a + f[6 + k]! * b + f[9 + k]!)
  const l = Math.hypot(...d)
  return [f[0]!, f[1]!, f[2]!, ...d.map(v => v / l)]
}
