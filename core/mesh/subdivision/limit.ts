/**
 * Normals of the surface that steps without end would lead to, at the vertices of a cage of quadrilaterals: smooth
 * ones by Halstead, Kass & DeRose 1993, "Efficient, fair interpolation using Catmull–Clark surfaces", appendix A; at
 * creases and borders by the tangents of Biermann, Levin & Zorin 2000, "Piecewise smooth subdivision surfaces with
 * normal control", on each side for itself.
 */
import { smoothGroups } from '../crease'
import type { Cage } from './cage'
import { countSharps, RULE, ruleBefore } from './rules'

/** Tangents under way, and the ring of what lies about a vertex: neighbours, and corners of faces across. */
interface Work {
  first: Float64Array
  second: Float64Array
  ring: Uint32Array
}
const MOST_AROUND = 4096

const accumulate = (to: Float64Array, weight: number, position: Float64Array, place: number): void => {
  for (let k = 0; k < 3; k++) to[k]! += weight * position[place * 3 + k]!
}

/** Tangents where nothing is sharp. */
function smoothTangents({ place, next, position }: Cage, { first, second, ring }: Work, n: number): void {
  const step = (2 * Math.PI) / n
  const A = 1 + Math.cos(step) + Math.cos(step / 2) * Math.sqrt(2 * (9 + Math.cos(step)))
  for (let i = 0; i < n; i++) {
    const e = place[next[ring[i]!]!]!
    const f = place[next[next[ring[i]!]!]!]!
    accumulate(first, A * Math.cos(i * step), position, e)
    accumulate(first, Math.cos(i * step) + Math.cos((i + 1) * step), position, f)
    accumulate(second, A * Math.sin(i * step), position, e)
    accumulate(second, Math.sin(i * step) + Math.sin((i + 1) * step), position, f)
  }
}

/** Tangents on one side of a crease, along it and across; k faces from one of its edges to the other. */
function creaseTangents(cage: Cage, { first, second, ring }: Work, k: number): void {
  const { place, next, position } = cage
  const across = (c: number) => place[next[next[c]!]!]!
  const before = (c: number) => place[next[next[next[c]!]!]!]!
  const v = place[ring[0]!]!
  const begin = place[next[ring[0]!]!]!
  const end = before(ring[k - 1]!)
  accumulate(first, 0.5, position, begin)
  accumulate(first, -0.5, position, end)
  const theta = Math.PI / k
  if (k === 1) {
    accumulate(second, -2, position, v)
    accumulate(second, 1, position, begin)
    accumulate(second, 1, position, end)
    return
  }
  const R = (Math.cos(theta) + 1) / Math.sin(theta)
  accumulate(second, 4 * R * (Math.cos(theta) - 1), position, v)
  for (const edge of [begin, end]) accumulate(second, -R * (1 + 2 * Math.cos(theta)), position, edge)
  for (let i = 0; i < k; i++) {
    if (i > 0) accumulate(second, 4 * Math.sin(i * theta), position, place[next[ring[i]!]!]!)
    accumulate(second, Math.sin(i * theta) + Math.sin((i + 1) * theta), position, across(ring[i]!))
  }
}

/** Adds the normal that the faces of a corner have there: nothing smooths them. */
function cornerNormal({ place, next, position }: Cage, ring: Uint32Array, k: number, out: Float64Array): void {
  for (let i = 0; i < k; i++) {
    const v = place[ring[i]!]! * 3
    const a = place[next[ring[i]!]!]! * 3
    const b = place[next[next[next[ring[i]!]!]!]!]! * 3
    for (let j = 0; j < 3; j++) {
      const p = (j + 1) % 3
      const q = (j + 2) % 3
      out[j]! +=
        (position[a + p]! - position[v + p]!) * (position[b + q]! - position[v + q]!) -
        (position[a + q]! - position[v + q]!) * (position[b + p]! - position[v + p]!)
    }
  }
}

const lengthOf = (v: Float64Array): number => Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]!)

/** Unit normals, three a corner: those of one side of a sharp edge are alike. */
export function limitNormals(cage: Cage): Float32Array {
  const { place, next, twin, edgeSharpness } = cage
  const sharps = countSharps(cage)
  const hard = (c: number) => edgeSharpness[c]! > 0 || twin[c]! < 0
  const group = smoothGroups(cage, twin, c => hard(c))
  const before = (c: number) => next[next[next[c]!]!]!
  const found = new Float32Array(place.length * 3)
  const done = new Uint8Array(place.length)
  const normal = new Float64Array(3)
  const work: Work = {
    first: new Float64Array(3),
    second: new Float64Array(3),
    ring: new Uint32Array(MOST_AROUND),
  }
  for (let c = 0; c < place.length; c++) {
    if (done[group[c]!]) continue
    done[group[c]!] = 1
    const rule = ruleBefore(cage, sharps, place[c]!)
    // back to where the side begins; all the way round where it does not
    let from = c
    while (!hard(from)) {
      from = next[twin[from]!]!
      if (from === c) break
    }
    const open = hard(from)
    let n = 0
    for (let at = from; n < MOST_AROUND; at = twin[before(at)]!) {
      work.ring[n++] = at
      if (hard(before(at)) || twin[before(at)] === from) break
    }
    work.first.fill(0)
    work.second.fill(0)
    normal.fill(0)
    if (rule === RULE.corner) cornerNormal(cage, work.ring, n, normal)
    else {
      if (open && rule === RULE.crease) creaseTangents(cage, work, n)
      else smoothTangents(cage, work, n)
      const { first: t, second: b } = work
      for (let j = 0; j < 3; j++) normal[j] = t[(j + 1) % 3]! * b[(j + 2) % 3]! - t[(j + 2) % 3]! * b[(j + 1) % 3]!
    }
    if (!(lengthOf(normal) > 1e-12)) {
      normal.fill(0)
      cornerNormal(cage, work.ring, n, normal)
    }
    const l = lengthOf(normal) || 1
    for (let j = 0; j < 3; j++) found[group[c]! * 3 + j] = normal[j]! / l
  }
  const out = new Float32Array(found.length)
  for (let c = 0; c < place.length; c++) for (let k = 0; k < 3; k++) out[c * 3 + k] = found[group[c]! * 3 + k]!
  return out
}
