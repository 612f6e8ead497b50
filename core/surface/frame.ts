/** Local frames of the lobe that is sampled. */
import { memory, now, scattered } from './memory'
import { orthonormal } from './orthonormal'
import { LOBE } from './slots'

const { frame, lobes, towards } = memory

/** Frame of the lobe at o: any two directions square to its normal, or its grain. */
export function buildFrame(o: number): void {
  if (lobes[o + LOBE.grain] === 1)
    for (let k = 0; k < 3; k++) {
      frame[k] = lobes[o + LOBE.tx + k]!
      frame[3 + k] = lobes[o + LOBE.bx + k]!
    }
  else orthonormal(frame, lobes[o + LOBE.nx]!, lobes[o + LOBE.ny]!, lobes[o + LOBE.nz]!)
}

/** A direction in that frame about the normal n, into `scattered`. */
export function toWorld(x: number, y: number, z: number, nx: number, ny: number, nz: number): void {
  scattered.x = frame[0]! * x + frame[3]! * y + nx * z
  scattered.y = frame[1]! * x + frame[4]! * y + ny * z
  scattered.z = frame[2]! * x + frame[5]! * y + nz * z
}

/** Fills `memory.towards` for the lobe at o. */
export function towardsViewer(o: number): void {
  const nx = lobes[o + LOBE.nx]!
  const ny = lobes[o + LOBE.ny]!
  const nz = lobes[o + LOBE.nz]!
  const along = now.ox * nx + now.oy * ny + now.oz * nz
  let x = now.ox - along * nx
  let y = now.oy - along * ny
  let z = now.oz - along * nz
  let l = Math.sqrt(x * x + y * y + z * z)
  if (l < 1e-6) {
    if (Math.abs(ny) < 0.9) {
      x = nz
      y = 0
      z = -nx
    } else {
      x = 0
      y = -nz
      z = ny
    }
    l = Math.sqrt(x * x + y * y + z * z)
  }
  x /= l
  y /= l
  z /= l
  towards[0] = x
  towards[1] = y
  towards[2] = z
  towards[3] = ny * z - nz * y
  towards[4] = nz * x - nx * z
  towards[5] = nx * y - ny * x
}
