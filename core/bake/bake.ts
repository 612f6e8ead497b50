/**
 * Values of a surface as pictures that lie on it by its coordinates: each texel's centre is found in the triangle that
 * covers it, and is a shading point there, seen from straight above.
 */
import { areaNormals } from '../mesh/face-normals'
import { withoutCopy } from '../mesh/transform'
import type { Model, Part } from '../mesh/model'
import { withTangents } from '../mesh/tangents'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillInTriangle } from '../scene/fill-point'
import { joinParts, type Attributes } from '../scene/geometry'
import { takeTriangle } from '../trace/triangle'
import { padCharts } from './pad'

const S = new Float64Array(POINT_STRIDE)

/** One square of coordinates from a whole u and v to the next. */
export interface BakedTile {
  /** Whole number that u and v begin at. */
  u: number
  v: number
  /** Row 0 at the greatest v; `components` numbers a texel. */
  values: Float32Array
  /** 1 where a triangle covers the texel's centre, 2 where it was filled from beside it, 0 where it is empty. */
  covered: Uint8Array
  /** Texels whose centres more than one triangle covers. */
  twice: number
}

export interface BakeOptions {
  /** Texels of a tile. */
  width: number
  height: number
  /** Numbers a texel. */
  components: number
  /** Which set of coordinates, from 0. */
  set: number
  /** Name of the part alone that is baked; all where it is left out. */
  part?: string
  /** How many texels beyond their edges charts go on. */
  padding: number
}

/** Writes the value at the shading point S into `out` from an index on. */
export type Value = (S: Float64Array, out: Float32Array, at: number) => void

/** Most tiles along u and v: what UDIM can number is ten along u. */
const MOST_TILES = 100
/** How far within a triangle a centre lies that counts as covered by it and not by its neighbour. */
const WITHIN = 1e-3
const down = new Float64Array(3)

/** Coordinates of a part by number of the set; undefined where it has none. */
const setOf = (part: Part, set: number): Float32Array | undefined => {
  const uv = set === 0 ? part.uv : part.uvMore?.[set - 1]
  return uv?.length ? uv : undefined
}

/**
 * Bakes a value over a model.
 * @returns tiles that triangles lie in, by v and u
 * @throws RangeError where no part has the coordinates, or where they lie over too many tiles
 */
export function bakeModel(model: Model, options: BakeOptions, value: Value): BakedTile[] {
  const tiles = new Map<string, BakedTile>()
  let parts = 0
  model.parts.forEach((p, number) => {
    if (options.part !== undefined && p.name !== options.part) return
    const part = withTangents(withoutCopy(model, p))
    const uv = setOf(part, options.set)
    if (!uv) return
    parts++
    bakePart(part, number, uv, options, tiles, value)
  })
  if (parts === 0)
    throw new RangeError(
      options.part === undefined
        ? `no part has texture coordinates in set ${options.set + 1}`
        : `there is no part ${options.part} with texture coordinates in set ${options.set + 1}`,
    )
  for (const { values, covered } of tiles.values()) padCharts(values, covered, options)
  return [...tiles.values()].sort((a, b) => a.v - b.v || a.u - b.u)
}

function tileAt(tiles: Map<string, BakedTile>, u: number, v: number, o: BakeOptions): BakedTile {
  const key = `${u} ${v}`
  let tile = tiles.get(key)
  if (tile) return tile
  if (tiles.size >= MOST_TILES) throw new RangeError(`coordinates lie over more than ${MOST_TILES} squares`)
  const texels = o.width * o.height
  tile = { u, v, values: new Float32Array(texels * o.components), covered: new Uint8Array(texels), twice: 0 }
  tiles.set(key, tile)
  return tile
}

/** A triangle under way. */
interface Under {
  part: Part
  attributes: Attributes
  number: number
  t: number
  /** Coordinates of its corners, and twice their area, signed. */
  U: number[]
  V: number[]
  area: number
  /** What a texel stands for on the surface, metres. */
  footprint: number
}

function bakePart(
  part: Part,
  number: number,
  uv: Float32Array,
  o: BakeOptions,
  tiles: Map<string, BakedTile>,
  value: Value,
): void {
  const { attributes } = joinParts([part], [0], 0, n => new ArrayBuffer(n))
  const normals = areaNormals(part.position, part.index)
  for (let t = 0; t < part.index.length / 3; t++) {
    const corners = [0, 1, 2].map(c => part.index[t * 3 + c]! * 2)
    const U = corners.map(c => uv[c]!)
    const V = corners.map(c => uv[c + 1]!)
    const area = (U[1]! - U[0]!) * (V[2]! - V[0]!) - (U[2]! - U[0]!) * (V[1]! - V[0]!)
    // NaN and nothing at once
    if (!(Math.abs(area) > 0)) continue
    const twice = Math.hypot(normals[t * 3]!, normals[t * 3 + 1]!, normals[t * 3 + 2]!)
    const footprint = Math.sqrt(twice / (Math.abs(area) * o.width * o.height)) / 2
    const under = { part, attributes, number, t, U, V, area, footprint }
    for (let v = Math.floor(Math.min(...V)); v < Math.max(...V); v++)
      for (let u = Math.floor(Math.min(...U)); u < Math.max(...U); u++)
        bakeTriangle(under, tileAt(tiles, u, v, o), o, value)
  }
}

/** Fills the texels of one tile whose centres a triangle covers. */
function bakeTriangle(
  under: Under,
  tile: BakedTile,
  { width, height, components }: BakeOptions,
  value: Value,
): void {
  const { area } = under
  const U = under.U.map(u => u - tile.u)
  const V = under.V.map(v => v - tile.v)
  const within = (x: number, most: number) => Math.max(0, Math.min(most, x))
  const left = within(Math.ceil(Math.min(...U) * width - 0.5), width)
  const right = within(Math.floor(Math.max(...U) * width - 0.5), width - 1)
  const top = within(Math.ceil((1 - Math.max(...V)) * height - 0.5), height)
  const bottom = within(Math.floor((1 - Math.min(...V)) * height - 0.5), height - 1)
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const u = (x + 0.5) / width - U[0]!
      const v = 1 - (y + 0.5) / height - V[0]!
      const b = (u * (V[2]! - V[0]!) - v * (U[2]! - U[0]!)) / area
      const c = (v * (U[1]! - U[0]!) - u * (V[1]! - V[0]!)) / area
      if (b < 0 || c < 0 || b + c > 1) continue
      const i = y * width + x
      if (tile.covered[i] === 1) {
        if (Math.min(b, c, 1 - b - c) > WITHIN) tile.twice++
        continue
      }
      tile.covered[i] = 1
      fillTexel(under, b, c)
      value(S, tile.values, i * components)
    }
}

/** Makes S the point of a triangle at barycentric (b, c). */
function fillTexel({ part, attributes, number, t, footprint }: Under, b: number, c: number): void {
  const { index, normal } = part
  takeTriangle(part.position, index[t * 3]!, index[t * 3 + 1]!, index[t * 3 + 2]!)
  let l = 0
  for (let k = 0; k < 3; k++) {
    down[k] =
      -(1 - b - c) * normal[index[t * 3]! * 3 + k]! -
      b * normal[index[t * 3 + 1]! * 3 + k]! -
      c * normal[index[t * 3 + 2]! * 3 + k]!
    l += down[k]! ** 2
  }
  l = Math.sqrt(l) || 1
  for (let k = 0; k < 3; k++) down[k]! /= l
  fillInTriangle(attributes, null, t, b, c, down, 0, S)
  S[POINT.footprint] = footprint
  S[POINT.part] = number
}
