/** Random numbers a cell, and distances to a point scattered in each (MaterialX 1.39 pattern nodes; Worley 1996). */
import { hash2, hash3, hash4, unit } from './hash'
import { memory } from './memory'

const { noise: N, result } = memory

/** One random number a cell, 0..1. */
export const cell2 = (x: number, y: number): number => unit(hash2(Math.floor(x), Math.floor(y)))
export const cell3 = (x: number, y: number, z: number): number =>
  unit(hash3(Math.floor(x), Math.floor(y), Math.floor(z)))

/**
 * Nearest squared distances to the jittered points, ascending, in `memory.result`; `result[3]` is the nearest
 * point's cell value; its cell stands in `memory.noise`.
 */
export function worley2(x: number, y: number, jitter: number): void {
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const fx = x - X
  const fy = y - Y
  let d1 = 1e6
  let d2 = 1e6
  let d3 = 1e6
  let nx = 0
  let ny = 0
  for (let i = -1; i <= 1; i++)
    for (let j = -1; j <= 1; j++) {
      const px = i + (unit(hash3(X + i, Y + j, 0)) - 0.5) * jitter + 0.5 - fx
      const py = j + (unit(hash3(X + i, Y + j, 1)) - 0.5) * jitter + 0.5 - fy
      const d = px * px + py * py
      if (d < d1) {
        d3 = d2
        d2 = d1
        d1 = d
        nx = px
        ny = py
      } else if (d < d2) {
        d3 = d2
        d2 = d
      } else if (d < d3) d3 = d
    }
  result[0] = d1
  result[1] = d2
  result[2] = d3
  N[0] = Math.floor(nx + x)
  N[1] = Math.floor(ny + y)
  result[3] = cell2(N[0], N[1])
}

/** Random numbers of the nearest point's cell, into `memory.result`. */
export function solid2(x: number, y: number, jitter: number): void {
  worley2(x, y, jitter)
  for (let k = 0; k < 3; k++) result[k] = unit(hash3(N[0]!, N[1]!, k))
}

/** {@link worley2} in space. */
export function worley3(x: number, y: number, z: number, jitter: number): void {
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const Z = Math.floor(z) | 0
  const fx = x - X
  const fy = y - Y
  const fz = z - Z
  let d1 = 1e6
  let d2 = 1e6
  let d3 = 1e6
  let nx = 0
  let ny = 0
  let nz = 0
  for (let i = -1; i <= 1; i++)
    for (let j = -1; j <= 1; j++)
      for (let k = -1; k <= 1; k++) {
        const px = i + (unit(hash4(X + i, Y + j, Z + k, 0)) - 0.5) * jitter + 0.5 - fx
        const py = j + (unit(hash4(X + i, Y + j, Z + k, 1)) - 0.5) * jitter + 0.5 - fy
        const pz = k + (unit(hash4(X + i, Y + j, Z + k, 2)) - 0.5) * jitter + 0.5 - fz
        const d = px * px + py * py + pz * pz
        if (d < d1) {
          d3 = d2
          d2 = d1
          d1 = d
          nx = px
          ny = py
          nz = pz
        } else if (d < d2) {
          d3 = d2
          d2 = d
        } else if (d < d3) d3 = d
      }
  result[0] = d1
  result[1] = d2
  result[2] = d3
  N[0] = Math.floor(nx + x)
  N[1] = Math.floor(ny + y)
  N[2] = Math.floor(nz + z)
  result[3] = cell3(N[0], N[1], N[2])
}

/** Random numbers of the nearest point's cell, into `memory.result`. */
export function solid3(x: number, y: number, z: number, jitter: number): void {
  worley3(x, y, z, jitter)
  for (let k = 0; k < 3; k++) result[k] = unit(hash4(N[0]!, N[1]!, N[2]!, k))
}
