/**
 * PLY: vertices and polygons, as text or binary of both byte orders. Normals, one set of coordinates and colours are
 * read under the names that are common for them; other properties and elements are passed over.
 */
import { cutPolygon } from '../../mesh/cut-polygon'
import { withCreases } from '../../mesh/crease'
import type { Part } from '../../mesh/model'
import { decodeSRGB } from '../../colour/rgb'
import { FormatError } from '../error'
import { checkPromise } from '../promises'
import type { ModelFiles, ModelFormat } from './model-format'
import { table } from '../../nodes/table'

/** Numbers of a property. */
interface Scalar {
  bytes: number
  whole: boolean
  read(view: DataView, at: number, little: boolean): number
}
const scalar = (bytes: number, whole: boolean, read: Scalar['read']): Scalar => ({ bytes, whole, read })
const INT8 = scalar(1, true, (v, at) => v.getInt8(at))
const UINT8 = scalar(1, true, (v, at) => v.getUint8(at))
const INT16 = scalar(2, true, (v, at, e) => v.getInt16(at, e))
const UINT16 = scalar(2, true, (v, at, e) => v.getUint16(at, e))
const INT32 = scalar(4, true, (v, at, e) => v.getInt32(at, e))
const UINT32 = scalar(4, true, (v, at, e) => v.getUint32(at, e))
const FLOAT32 = scalar(4, false, (v, at, e) => v.getFloat32(at, e))
const FLOAT64 = scalar(8, false, (v, at, e) => v.getFloat64(at, e))
const TYPES = table<Scalar>({
  char: INT8,
  int8: INT8,
  uchar: UINT8,
  uint8: UINT8,
  short: INT16,
  int16: INT16,
  ushort: UINT16,
  uint16: UINT16,
  int: INT32,
  int32: INT32,
  uint: UINT32,
  uint32: UINT32,
  float: FLOAT32,
  float32: FLOAT32,
  double: FLOAT64,
  float64: FLOAT64,
})

interface Property {
  name: string
  type: Scalar
  /** Type of the count, of a list. */
  count?: Scalar
}
interface Section {
  name: string
  count: number
  properties: Property[]
}
interface Header {
  format: 'ascii' | 'binary_little_endian' | 'binary_big_endian'
  sections: Section[]
  /** First byte after it. */
  end: number
}

/** Most bytes that a header may have, and most corners of a polygon. */
const LONGEST_HEADER = 65536
const MOST_CORNERS = 65536
/** Names under which files keep what we read. */
const NORMAL = ['nx', 'ny', 'nz']
const COORDINATES = [
  ['s', 't'],
  ['u', 'v'],
  ['texture_u', 'texture_v'],
]
const COLOUR = ['red', 'green', 'blue', 'alpha']

function headerOf(bytes: Uint8Array): Header {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, LONGEST_HEADER))
  const found = /(^|\n)end_header[ \t]*\r?\n/.exec(text)
  if (!/^ply\s*?\r?\n/.test(text) || !found) throw new FormatError('PLY', 'no PLY header at the start of the file')
  const lines = text.slice(0, found.index).split(/\r?\n/).slice(1)
  let format: Header['format'] | undefined
  const sections: Section[] = []
  lines.forEach((line, i) => {
    const fault = (what: string): never => {
      throw new FormatError('PLY', what, `header line ${i + 2}`)
    }
    const words = line.trim().split(/\s+/)
    const typeOf = (name: string | undefined) =>
      TYPES[name ?? ''] ?? fault(`there is no type ${(name ?? '').slice(0, 40)}`)
    const kind = words.shift()
    if (kind === 'format') {
      const [name] = words
      if (name !== 'ascii' && name !== 'binary_little_endian' && name !== 'binary_big_endian')
        return fault(`there is no format ${(name ?? '').slice(0, 40)}`)
      format = name
    } else if (kind === 'element') {
      const count = Number(words[1])
      if (!Number.isSafeInteger(count) || count < 0) fault('an element needs a count')
      sections.push({ name: words[0]!, count, properties: [] })
    } else if (kind === 'property') {
      const list = words[0] === 'list'
      sections.at(-1)?.properties.push({
        name: words[list ? 3 : 1] ?? '',
        type: typeOf(words[list ? 2 : 0]),
        ...(list ? { count: typeOf(words[1]) } : {}),
      })
    }
  })
  if (!format) throw new FormatError('PLY', 'the header names no format', 'header')
  return { format, sections, end: found.index + found[0].length }
}

/** Gives the numbers of a file, one after the other. */
interface Reader {
  next(type: Scalar): number
  place(): string
}

function binaryReader(bytes: Uint8Array, start: number, little: boolean): Reader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = start
  return {
    next(type) {
      if (at + type.bytes > bytes.length)
        throw new FormatError('PLY', 'the file ends before its last face', `byte ${bytes.length}`)
      const x = type.read(view, at, little)
      at += type.bytes
      return x
    },
    place: () => `byte ${at}`,
  }
}

function textReader(bytes: Uint8Array, start: number): Reader {
  const text = new TextDecoder('latin1').decode(bytes.subarray(start))
  const word = /\S+/g
  return {
    next() {
      const found = word.exec(text)
      if (!found) throw new FormatError('PLY', 'the file ends before its last face', `byte ${bytes.length}`)
      const x = Number(found[0])
      if (Number.isNaN(x) && !/^[-+]?nan$/i.test(found[0]))
        throw new FormatError(
          'PLY',
          `${JSON.stringify(found[0].slice(0, 40))} is not a number`,
          `byte ${start + found.index}`,
        )
      return x
    },
    place: () => `byte ${start + word.lastIndex}`,
  }
}

/** Where a property's numbers go, by its place in the vertex; undefined for what is passed over. */
interface Wanted {
  to: Float32Array
  width: number
  offset: number
  /** Makes the number that is kept of the one read. */
  made(x: number): number
}

/** Reads the vertices, and says which arrays they filled. */
function readVertices(reader: Reader, { count, properties }: Section) {
  const names = properties.map(p => (p.count ? '' : p.name))
  const has = (all: readonly string[]) => all.every(n => names.includes(n))
  if (!has(['x', 'y', 'z'])) throw new FormatError('PLY', 'vertices have no x, y and z', 'header')
  const wanted: (Wanted | undefined)[] = properties.map(() => undefined)
  const array = (
    of: readonly string[],
    width: number,
    made: (p: Property) => (x: number) => number,
  ): Float32Array => {
    const to = new Float32Array(count * width)
    of.forEach((name, offset) => {
      const i = names.indexOf(name)
      if (i >= 0) wanted[i] = { to, width, offset, made: made(properties[i]!) }
    })
    return to
  }
  const same = () => (x: number) => x
  const position = array(['x', 'y', 'z'], 3, same)
  const normal = has(NORMAL) ? array(NORMAL, 3, same) : undefined
  const named = COORDINATES.find(has)
  const uv = named && array(named, 2, same)
  const colour = has(COLOUR.slice(0, 3))
    ? array(COLOUR, 4, p => {
        const most = p.type.whole ? 2 ** (8 * p.type.bytes) - 1 : 0
        // bytes are encoded for a screen (common practice), other numbers linear
        return most === 0 ? x => x : p.name === 'alpha' ? x => x / most : x => decodeSRGB(x / most)
      })
    : undefined
  if (colour && !names.includes('alpha')) for (let v = 3; v < colour.length; v += 4) colour[v] = 1
  for (let v = 0; v < count; v++)
    for (let i = 0; i < properties.length; i++) {
      const { type, count: lists } = properties[i]!
      if (lists) {
        skipList(reader, lists, type)
        continue
      }
      const x = reader.next(type)
      const w = wanted[i]
      if (w) w.to[v * w.width + w.offset] = w.made(x)
    }
  for (let i = 0; i < position.length; i++)
    if (!Number.isFinite(position[i]))
      throw new FormatError('PLY', 'a position is not a number', `vertex ${Math.floor(i / 3)}`)
  return { position, normal, uv, colour }
}

function skipList(reader: Reader, count: Scalar, type: Scalar): void {
  for (let n = reader.next(count); n > 0; n--) reader.next(type)
}

/** Reads the faces, as polygons. */
function readFaces(reader: Reader, { count, properties }: Section, vertices: number) {
  const sizes = new Uint32Array(count)
  let corners = new Uint32Array(count * 3)
  let filled = 0
  const listed = properties.findIndex(p => p.count && /^vertex_(index|indices)$/.test(p.name))
  if (count > 0 && listed < 0) throw new FormatError('PLY', 'faces have no list of vertices', 'header')
  for (let f = 0; f < count; f++)
    for (let i = 0; i < properties.length; i++) {
      const { type, count: lists } = properties[i]!
      if (i !== listed) {
        if (lists) skipList(reader, lists, type)
        else reader.next(type)
        continue
      }
      const n = reader.next(lists!)
      if (!(n >= 3 && n <= MOST_CORNERS)) throw new FormatError('PLY', `a face has ${n} corners`, `face ${f}`)
      sizes[f] = n
      if (filled + n > corners.length) {
        const longer = new Uint32Array(Math.max(filled + n, corners.length * 2))
        longer.set(corners)
        corners = longer
      }
      for (let c = 0; c < n; c++) {
        const v = reader.next(type)
        if (!(v >= 0 && v < vertices)) throw new FormatError('PLY', `vertex ${v} does not exist`, `face ${f}`)
        corners[filled++] = v
      }
    }
  return { sizes, corners: corners.subarray(0, filled) }
}

/** Triangles of polygons. */
export function cutPolygons(
  { sizes, corners }: NonNullable<Part['polygons']>,
  position: Float32Array,
): Uint32Array {
  const index = new Uint32Array(sizes.reduce((n, size) => n + 3 * (size - 2), 0))
  let to = 0
  let from = 0
  for (const size of sizes) {
    if (size === 3) for (let k = 0; k < 3; k++) index[to++] = corners[from + k]!
    else {
      const points = Array.from(
        { length: size * 3 },
        (_, i) => position[corners[from + Math.floor(i / 3)]! * 3 + (i % 3)]!,
      )
      for (const c of cutPolygon(points)) index[to++] = corners[from + c]!
    }
    from += size
  }
  return index.subarray(0, to)
}

/**
 * Reads a PLY as one part.
 * @throws FormatError where the file is something else, damaged or cut short
 */
export function readPly(bytes: Uint8Array): Part {
  const { format, sections, end } = headerOf(bytes)
  const vertices = sections.find(s => s.name === 'vertex')
  const faces = sections.find(s => s.name === 'face')
  if (!vertices || !faces) throw new FormatError('PLY', 'the header names no vertices or no faces', 'header')
  const least = (s: Section) =>
    s.count * s.properties.reduce((n, p) => n + (format === 'ascii' ? 2 : (p.count?.bytes ?? p.type.bytes)), 0)
  checkPromise({
    format: 'PLY',
    what: `${vertices.count} vertices and ${faces.count} faces`,
    needs: vertices.count * 60 + faces.count * 28,
    least: end + sections.reduce((n, s) => n + least(s), -2),
    file: bytes.length,
  })
  const reader =
    format === 'ascii' ? textReader(bytes, end) : binaryReader(bytes, end, format === 'binary_little_endian')
  let read: ReturnType<typeof readVertices> | undefined
  let polygons: NonNullable<Part['polygons']> | undefined
  for (const s of sections)
    if (s === vertices) read = readVertices(reader, s)
    else if (s === faces) polygons = readFaces(reader, s, vertices.count)
    else
      for (let i = 0; i < s.count; i++)
        for (const p of s.properties)
          if (p.count) skipList(reader, p.count, p.type)
          else reader.next(p.type)
  const { position, normal, uv, colour } = read!
  const index = cutPolygons(polygons!, position)
  const part: Part = {
    name: 'Model',
    position,
    normal: normal ?? new Float32Array(position.length),
    uv: uv ?? new Float32Array(0),
    index,
    ...(colour ? { colour } : {}),
    ...(polygons!.sizes.some(n => n > 3) ? { polygons } : {}),
  }
  return normal ? part : withCreases(part)
}

export const ply: ModelFormat = {
  ending: 'ply',
  read: (bytes): ModelFiles => ({
    model: { parts: [readPly(bytes)] },
    materialOf: [-1],
    materials: [],
    unitKnown: false,
    missing: [],
    lights: [],
  }),
}
