import { withCreases } from '../../mesh/crease'
import { cutPolygon } from '../../mesh/cut-polygon'
import { uniqueName, type Model, type Part } from '../../mesh/model'
import { FormatError } from '../error'
import type { ModelFiles, ModelFormat } from './model-format'
import { materialsOfMtl } from './mtl'
import type { TranslatedMaterial } from './translated'

/**
 * An OBJ as it stands: its parts, the material that each of them names, and the material libraries that the file
 * names.
 */
export interface ParsedObj {
  model: Model
  materialOf: (string | undefined)[]
  libraries: string[]
}

const TRIANGLE = [0, 1, 2]

/** Reads the polygons of a Wavefront OBJ. @throws FormatError with the line where something is wrong */
export const readObj = (text: string): Model => parseObj(text).model

/**
 * Reads a Wavefront OBJ: o, g and usemtl begin parts, polygons are cut into triangles, v runs up as in the file.
 * @throws FormatError with the line where something is wrong
 */
export function parseObj(text: string): ParsedObj {
  const v: number[] = []
  const vt: number[] = []
  const vn: number[] = []
  const parts: Part[] = []
  const taken = new Set<string>()
  let position: number[] = []
  let normal: number[] = []
  let uv: number[] = []
  let index: number[] = []
  let sizes: number[] = []
  let polygonCorners: number[] = []
  let known = new Map<string, number>()
  let name = 'Model'
  let material: string | undefined
  const materialOf: ParsedObj['materialOf'] = []
  const libraries: string[] = []
  const flush = () => {
    if (index.length) {
      const p = Float32Array.from(position)
      const i = Uint32Array.from(index)
      const whole = normal.every(Number.isFinite)
      materialOf.push(material)
      const part: Part = {
        name: uniqueName(name.slice(0, 120), taken),
        position: p,
        index: i,
        normal: Float32Array.from(normal),
        uv: uv.every(Number.isFinite) ? Float32Array.from(uv) : new Float32Array(0),
        ...(sizes.some(n => n > 3)
          ? { polygons: { sizes: Uint32Array.from(sizes), corners: Uint32Array.from(polygonCorners) } }
          : {}),
      }
      parts.push(whole ? part : withCreases(part))
    }
    position = []
    normal = []
    uv = []
    index = []
    sizes = []
    polygonCorners = []
    known = new Map()
  }
  text.split('\n').forEach((line, number) => {
    const [word, ...rest] = line.trim().split(/\s+/)
    const fault = (what: string): never => {
      throw new FormatError('OBJ', what, `line ${number + 1}`)
    }
    const numbers = (n: number) => {
      const x = rest.slice(0, n).map(Number)
      if (x.length < n || x.some(y => !Number.isFinite(y))) fault(`${word} needs ${n} numbers`)
      return x
    }
    if (word === 'v') v.push(...numbers(3))
    else if (word === 'vt') vt.push(...numbers(2))
    else if (word === 'vn') vn.push(...numbers(3))
    else if (word === 'o' || word === 'g') {
      flush()
      name = rest.join(' ') || 'Model'
    } else if (word === 'usemtl') {
      flush()
      material = rest.join(' ') || undefined
    } else if (word === 'mtllib') libraries.push(rest.join(' '))
    else if (word === 'f') {
      if (rest.length < 3) fault('a face needs three corners')
      const corners = rest.map(corner => {
        const found = known.get(corner)
        if (found !== undefined) return found
        const [a, b, c] = corner
          .split('/')
          .map((t, k) => (t === '' ? 0 : +t < 0 ? +t + 1 + [v.length / 3, vt.length / 2, vn.length / 3][k]! : +t))
        if (!(a! >= 1 && a! <= v.length / 3)) fault(`vertex ${corner.slice(0, 40)} does not exist`)
        const i = position.length / 3
        position.push(...v.slice(a! * 3 - 3, a! * 3))
        if (b && b * 2 <= vt.length) uv.push(vt[b * 2 - 2]!, vt[b * 2 - 1]!)
        else uv.push(NaN, NaN)
        if (c && c * 3 <= vn.length) normal.push(...vn.slice(c * 3 - 3, c * 3))
        else normal.push(NaN, NaN, NaN)
        known.set(corner, i)
        return i
      })
      sizes.push(corners.length)
      for (const c of corners) polygonCorners.push(c)
      const points = corners.length === 3 ? [] : corners.flatMap(c => position.slice(c * 3, c * 3 + 3))
      for (const c of corners.length === 3 ? TRIANGLE : cutPolygon(points)) index.push(corners[c]!)
    }
  })
  flush()
  if (!parts.length) throw new FormatError('OBJ', 'the file holds no faces')
  return { model: { parts }, materialOf, libraries }
}

/** An OBJ with the libraries of materials that it names. */
function readFiles(bytes: Uint8Array, files: ReadonlyMap<string, Uint8Array>): ModelFiles {
  const { model, materialOf, libraries } = parseObj(new TextDecoder().decode(bytes))
  const missing: string[] = []
  const materials: TranslatedMaterial[] = []
  for (const library of libraries) {
    const text = files.get(library.split(/[\\/]/).at(-1)!)
    if (text) materials.push(...materialsOfMtl(new TextDecoder().decode(text), files))
    else missing.push(`the material library ${library.slice(0, 120)} did not come with it`)
  }
  for (const name of new Set(materialOf))
    if (name !== undefined && materials.length && !materials.some(m => m.name === name))
      missing.push(`no library holds the material ${name}`)
  return {
    model,
    materialOf: materialOf.map(n => materials.findIndex(m => m.name === n)),
    materials,
    unitKnown: false,
    missing,
    lights: [],
  }
}

export const obj: ModelFormat = { ending: 'obj', read: readFiles }
