/**
 * One step of Catmull & Clark 1978, "Recursively generated B-spline surfaces on arbitrary topological meshes", with
 * the sharp and half-sharp edges of DeRose, Kass & Truong 1998. What corners carry is halved between them.
 */
import { twinsOf } from '../edges'
import { numberEdges, type Cage, type CornerArray } from './cage'
import { countSharps, eachEdge, RULE, ruleAfter, ruleBefore, worn, type Sharps } from './rules'

/** Middles of faces. */
function facePoints({ starts, place, position }: Cage): Float64Array {
  const out = new Float64Array((starts.length - 1) * 3)
  for (let f = 0; f + 1 < starts.length; f++) {
    const n = starts[f + 1]! - starts[f]!
    for (let c = starts[f]!; c < starts[f + 1]!; c++)
      for (let k = 0; k < 3; k++) out[f * 3 + k]! += position[place[c]! * 3 + k]! / n
  }
  return out
}

/** New points on edges: between the ends and the faces, the more in the middle of the ends the sharper it is. */
function edgePoints(cage: Cage, faceOf: Uint32Array, face: Float64Array): Float64Array {
  const { twin, edge, position, edgeSharpness } = cage
  const out = new Float64Array(cage.edges * 3)
  eachEdge(cage, (c, a, b) => {
    const sharp = twin[c]! < 0 ? 1 : Math.min(1, edgeSharpness[c]!)
    for (let k = 0; k < 3; k++) {
      const middle = (position[a * 3 + k]! + position[b * 3 + k]!) / 2
      const smooth =
        sharp < 1 ? middle / 2 + (face[faceOf[c]! * 3 + k]! + face[faceOf[twin[c]!]! * 3 + k]!) / 4 : 0
      out[edge[c]! * 3 + k] = sharp * middle + (1 - sharp) * smooth
    }
  })
  return out
}

/** Sums over what surrounds each place. */
interface Around {
  faces: Float64Array
  neighbours: Float64Array
  /** Neighbours over edges that are sharp before and after. */
  sharpBefore: Float64Array
  sharpAfter: Float64Array
}

function sumsAround(cage: Cage, faceOf: Uint32Array, face: Float64Array): Around {
  const { place, position, edgeSharpness } = cage
  const sums = (): Float64Array => new Float64Array(position.length)
  const around: Around = { faces: sums(), neighbours: sums(), sharpBefore: sums(), sharpAfter: sums() }
  const addPoint = (to: Float64Array, v: number, from: Float64Array, i: number) => {
    for (let k = 0; k < 3; k++) to[v * 3 + k]! += from[i * 3 + k]!
  }
  for (let c = 0; c < place.length; c++) addPoint(around.faces, place[c]!, face, faceOf[c]!)
  eachEdge(cage, (c, a, b) => {
    const sharp = edgeSharpness[c]!
    const staysSharp = worn(sharp) > 0
    for (let side = 0; side < 2; side++) {
      const v = side === 0 ? a : b
      const other = side === 0 ? b : a
      addPoint(around.neighbours, v, position, other)
      if (sharp > 0) addPoint(around.sharpBefore, v, position, other)
      if (staysSharp) addPoint(around.sharpAfter, v, position, other)
    }
  })
  return around
}

/** New places of vertices. */
function vertexPoints(cage: Cage, around: Around, sharps: Sharps): Float64Array {
  const { position, vertexSharpness } = cage
  const out = new Float64Array(position.length)
  const byRule = (rule: number, v: number, sharp: Float64Array, i: number): number => {
    const p = position[i]!
    if (rule === RULE.corner) return p
    if (rule === RULE.crease) return 0.75 * p + 0.125 * sharp[i]!
    const n = sharps.edges[v]!
    return ((n - 2) / n) * p + (around.neighbours[i]! + around.faces[i]!) / (n * n)
  }
  for (let v = 0; v < position.length / 3; v++) {
    if (sharps.edges[v] === 0) {
      for (let k = 0; k < 3; k++) out[v * 3 + k] = position[v * 3 + k]!
      continue
    }
    const before = ruleBefore(cage, sharps, v)
    const after = ruleAfter(cage, sharps, v)
    // what stops being sharp counts by what was left of it (DeRose et al., §3.3)
    const s = vertexSharpness[v]!
    const vertexWorn = s > 0 && worn(s) <= 0
    const count = sharps.worn[v]! + (vertexWorn ? 1 : 0)
    const share = count ? Math.min(1, (sharps.wornSum[v]! + (vertexWorn ? s : 0)) / count) : 0
    for (let i = v * 3; i < v * 3 + 3; i++) {
      const was = byRule(before, v, around.sharpBefore, i)
      out[i] = before === after ? was : share * was + (1 - share) * byRule(after, v, around.sharpAfter, i)
    }
  }
  return out
}

/** What the corners of children carry: a face's own corner, half way to the next, the mean, half way back. */
function halved({ starts, next }: Cage, { numbers, width }: CornerArray): CornerArray {
  const corners = next.length
  const out = new Float32Array(corners * 4 * width)
  const mean = new Float64Array(width)
  for (let f = 0; f + 1 < starts.length; f++) {
    const from = starts[f]!
    const to = starts[f + 1]!
    mean.fill(0)
    for (let c = from; c < to; c++)
      for (let k = 0; k < width; k++) mean[k]! += numbers[c * width + k]! / (to - from)
    for (let c = from; c < to; c++) {
      const before = c === from ? to - 1 : c - 1
      for (let k = 0; k < width; k++) {
        const own = numbers[c * width + k]!
        out[c * 4 * width + k] = own
        out[(c * 4 + 1) * width + k] = (own + numbers[next[c]! * width + k]!) / 2
        out[(c * 4 + 2) * width + k] = mean[k]!
        out[(c * 4 + 3) * width + k] = (own + numbers[before * width + k]!) / 2
      }
    }
  }
  return { numbers: out, width }
}

/** A cage after one step: all faces have four corners, one for each corner before. */
export function refine(cage: Cage): Cage {
  const { starts, place, edge, edges, edgeSharpness, vertexSharpness } = cage
  const faces = starts.length - 1
  const faceOf = new Uint32Array(place.length)
  for (let f = 0; f < faces; f++) faceOf.fill(f, starts[f], starts[f + 1])
  const face = facePoints(cage)
  const places = cage.position.length / 3
  const position = new Float64Array((places + edges + faces) * 3)
  position.set(vertexPoints(cage, sumsAround(cage, faceOf, face), countSharps(cage)))
  position.set(edgePoints(cage, faceOf, face), places * 3)
  position.set(face, (places + edges) * 3)
  const corners = place.length * 4
  const newPlace = new Uint32Array(corners)
  const sharp = new Float32Array(corners)
  for (let f = 0; f < faces; f++)
    for (let c = starts[f]!; c < starts[f + 1]!; c++) {
      const before = c === starts[f] ? starts[f + 1]! - 1 : c - 1
      newPlace[c * 4] = place[c]!
      newPlace[c * 4 + 1] = places + edge[c]!
      newPlace[c * 4 + 2] = places + edges + f
      newPlace[c * 4 + 3] = places + edge[before]!
      sharp[c * 4] = worn(edgeSharpness[c]!)
      sharp[c * 4 + 3] = worn(edgeSharpness[before]!)
    }
  const next = new Uint32Array(corners)
  for (let c = 0; c < corners; c++) next[c] = c % 4 === 3 ? c - 3 : c + 1
  const newStarts = new Uint32Array(place.length + 1)
  for (let f = 0; f < newStarts.length; f++) newStarts[f] = f * 4
  const polygons = { place: newPlace, next }
  const twin = twinsOf(polygons)
  const vertices = new Float32Array(places + edges + faces)
  vertexSharpness.forEach((s, v) => (vertices[v] = worn(s)))
  return {
    ...polygons,
    starts: newStarts,
    position,
    twin,
    ...numberEdges(polygons, twin),
    edgeSharpness: sharp,
    vertexSharpness: vertices,
    carried: cage.carried.map(a => halved(cage, a)),
  }
}
