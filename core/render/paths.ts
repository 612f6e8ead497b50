/**
 * The paths of the tile under way: one thread has one set, in flat arrays that the loop of `integrate.ts` fills,
 * moves on and sums up.
 */
import { gridIndexOf, laneTable } from '../colour/wavelengths'
import { FRAME, throughLens } from '../scene/camera'
import { memory as surface, now } from '../surface/memory'
import { CHANNELS } from '../surface/slots'
import { toRec709 } from './layers'
import { beginMedia } from './media'
import { beginCone } from './cone'
import { hash2 } from './hash'
import { rounded } from './rounded'
import { beginDraws, draw2, maskPlace } from './sampler'
import { PAIR, VIEW } from './slots'
import { memory, tile } from './memory'

const {
  alone,
  density,
  direction,
  drawn,
  hero,
  inMatter,
  lanes,
  lightSum,
  opaque,
  origin,
  places,
  radiance,
  seeds,
  smoothBefore,
  specular,
  throughput,
  view,
} = memory

const { basis, lane } = surface

/** Loads the curves and grid indices of a path's wavelengths into the surface. */
export function loadWavelengths(path: number): void {
  now.hero = hero[path]!
  for (let k = 0; k < 4; k++) {
    const g = lanes[path * 4 + k]!
    lane[k] = g
    basis[k * 3] = laneTable[g * 6]!
    basis[k * 3 + 1] = laneTable[g * 6 + 1]!
    basis[k * 3 + 2] = laneTable[g * 6 + 2]!
  }
}

/** Begins the paths of a tile's pixels. */
export function startPaths(
  x0: number,
  y0: number,
  w: number,
  n: number,
  width: number,
  height: number,
  pass: number,
  seed: number,
  camera: Float64Array,
): void {
  beginDraws(seed, x0, y0, pass)
  tile.pass = pass
  for (let i = 0; i < n; i++) {
    const px = x0 + (i % w)
    const py = y0 + Math.floor(i / w)
    const s = hash2(hash2(seed, px), py)
    const place = maskPlace(px, py)
    seeds[i] = s
    places[i] = place
    draw2(place, s, PAIR.filter)
    const fx = px + 0.5 + tent(drawn[0]!)
    const fy = py + 0.5 + tent(drawn[1]!)
    draw2(place, s, PAIR.wavelengths)
    for (let k = 0; k < 4; k++) lanes[i * 4 + k] = gridIndexOf(drawn[0]!, k)
    const x = (2 * fx) / width - 1
    const y = 1 - (2 * fy) / height
    const dx = camera[3]! * x + camera[6]! * y + camera[9]!
    const dy = camera[4]! * x + camera[7]! * y + camera[10]!
    const dz = camera[5]! * x + camera[8]! * y + camera[11]!
    const l = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz)
    const o = i * 3
    origin[o] = camera[0]!
    origin[o + 1] = camera[1]!
    origin[o + 2] = camera[2]!
    direction[o] = dx * l
    direction[o + 1] = dy * l
    direction[o + 2] = dz * l
    if (camera[FRAME.radius]! > 0) {
      draw2(place, s, PAIR.lens)
      throughLens(camera, drawn, origin, direction, o, dx, dy, dz)
    }
    smoothBefore[i] = 1
    lightSum[i] = 0
    inMatter[i] = 0
    beginCone(i, tile.pixelAngle / 2)
    density[i] = 0
    beginMedia(i)
    hero[i] = hash2(s, pass + 0x51ed27) & 3
    alone[i] = 0
    opaque[i] = 0
    specular[i] = 0
    view[i] = VIEW.openings
  }
  throughput.fill(1, 0, n * CHANNELS)
  radiance.fill(0, 0, n * CHANNELS)
}

/** Inverse of the tent's distribution, −1…1. */
function tent(u: number): number {
  return u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u)
}

/**
 * A path goes on with the wavelength of its hero alone: what it brings stands for all four, and has no companion.
 */
export function goAlone(path: number): void {
  const c = path * CHANNELS
  const own = throughput[c + hero[path]!]! * 4
  throughput.fill(0, c, c + CHANNELS)
  throughput[c + hero[path]!] = own
  alone[path] = 1
}

/** Turns the seven channels of each path into Rec.709. @returns how many were no numbers */
export function writeSamples(n: number, out: Float64Array): number {
  let lost = 0
  for (let path = 0; path < n; path++) {
    const o = path * 3
    toRec709(radiance, path * CHANNELS, lanes, path * 4, out, o)
    const sum = out[o]! + out[o + 1]! + out[o + 2]!
    if (!(sum - sum === 0)) {
      lost++
      out[o] = 0
      out[o + 1] = 0
      out[o + 2] = 0
    }
    out[o] = rounded(out[o]!)
    out[o + 1] = rounded(out[o + 1]!)
    out[o + 2] = rounded(out[o + 2]!)
  }
  return lost
}
