import { writeFileSync } from 'node:fs'
import { encodeSRGB } from '../../core/colour/rgb'
import { fieldAt } from '../../core/fields/at-place'
import { useOf } from '../../core/fields/use'
import { planes, writeExr } from '../../core/formats/pictures/exr'
import { LARGEST_PICTURE } from '../../core/formats/pictures/picture'
import { writePng } from '../../core/formats/pictures/png'
import type { Model } from '../../core/mesh/model'
import { unwrapModel } from '../../core/mesh/unwrap'
import { instantiate } from '../../core/network/instantiate'
import { memory } from '../../core/nodes/memory'
import { MORE_SETS, POINT } from '../../core/point/slots'
import { bakeModel, type BakedTile, type BakeOptions, type Value } from '../../core/bake/bake'
import { fillFields } from '../../core/render/fields'
import { isolatedSize, takeValue } from '../../core/render/isolate'
import { normalOfHeight } from '../../core/render/own-height'
import { createGeometry, type Geometry } from '../../core/scene/geometry'
import { compileMaterial, texturesFor } from '../../core/world/compile-material'
import { askedField } from '../asked-field'
import { folderOf, pictureReader, readMaterial, readModel } from '../files'
import { checkOutput, FLAG, InputError, OUTPUT, type Options, parseSize, unitFactor, VALUE } from '../options'
import { nodeProgram } from '../node-program'
import { report } from '../report'
import type { Command } from '../command'

const { result } = memory
/** What a file name stands for that a tile's number is put into. */
const TILE = '<UDIM>'
/** Texels beyond their edges that charts go on where nothing is said. */
const PADDING = 8

/** What is baked: how many numbers, and how they are found at a point. */
interface Baked {
  components: number
  /** Whether numbers lie between −1 and 1: the PNG holds them halved, about the middle. */
  signed?: boolean
  at: Value
}

/** Any node that gives numbers. */
function bakedNode(file: string, node: string, geometry: Geometry, seconds: number): Baked {
  const program = nodeProgram(file, node, seconds)
  const shader = instantiate(program, texturesFor(program, pictureReader(folderOf(file))))
  const constants = Float64Array.from(program.constants)
  const asking = { shader, constants, fields: program.fields.map(useOf) }
  const n = program.size
  return {
    components: isolatedSize(n),
    at(S, out, at) {
      fillFields({ geometry }, asking, S)
      takeValue(shader, constants, n, S, out, at)
    },
  }
}

/** A material's displacement: how far along the normal it moves a point, metres, or the normal that it makes. */
function bakedRelief(file: string, material: string | undefined, what: string): Baked {
  if (what !== 'height' && what !== 'normal')
    throw new InputError(`there is no relief ${what}; known are height, normal`)
  const program = compileMaterial(readMaterial(file), material)
  report(program)
  const { displacement } = program
  if (!displacement) throw new InputError(`${file}: the material displaces nothing`)
  const shader = instantiate(displacement, texturesFor(displacement, pictureReader(folderOf(file))))
  const constants = Float64Array.from(displacement.constants)
  const n = new Float64Array(3)
  if (what === 'height')
    return {
      components: 1,
      at(S, out, at) {
        shader.value(S, constants, shader.images)
        out[at] = result[2]!
      },
    }
  const along = (S: Float64Array, axis: number): number =>
    n[0]! * S[axis]! + n[1]! * S[axis + 1]! + n[2]! * S[axis + 2]!
  return {
    components: 3,
    signed: true,
    at(S, out, at) {
      const known = normalOfHeight({ shader, constants }, S, n)
      out[at] = known ? along(S, POINT.tangent) : 0
      out[at + 1] = known ? along(S, POINT.bitangent) : 0
      out[at + 2] = known ? along(S, POINT.normal) : 1
    },
  }
}

function bakedField(o: Options, geometry: Geometry): Baked {
  const { field, radius, side } = askedField(o)!
  const at = fieldAt(geometry.hierarchy, field, radius, side)
  const place = new Float64Array(6)
  return {
    components: 1,
    at(S, out, to) {
      for (let k = 0; k < 3; k++) {
        place[k] = S[POINT.position + k]!
        place[3 + k] = S[POINT.geometric + k]!
      }
      out[to] = at(place)
    },
  }
}

/** What the options ask to bake. */
function bakedBy(o: Options, geometry: Geometry): Baked {
  const file = o.words[0]
  const asked = ['node', 'relief', 'field'].filter(name => o.has(name))
  if (asked.length !== 1) throw new InputError('bake takes one of --node, --relief and --field')
  if (asked[0] === 'field') return bakedField(o, geometry)
  if (!file) throw new InputError(`--${asked[0]} needs a document`)
  return asked[0] === 'node'
    ? bakedNode(file, o.text('node')!, geometry, o.number('time', 0, -1e6, 1e6))
    : bakedRelief(file, o.text('material'), o.text('relief')!)
}

/** A tile as the bytes of a file, and how many numbers a PNG could not hold. */
function bytesOf(
  { values }: BakedTile,
  out: string,
  { width, height, components }: BakeOptions,
  b: Baked,
  srgb: boolean,
) {
  if (/\.exr$/i.test(out)) {
    const channels = planes(values, components === 1 ? 'Y' : 'RGBA'.slice(0, components))
    return { bytes: writeExr({ width, height, channels, attributes: {} }), clipped: 0 }
  }
  let clipped = 0
  const words = new Uint16Array(values.length)
  values.forEach((x, i) => {
    const y = b.signed ? x / 2 + 0.5 : x
    if (!(y >= 0 && y <= 1)) clipped++
    const held = y > 0 ? Math.min(1, y) : 0
    words[i] = Math.round((srgb ? encodeSRGB(held) : held) * 65535)
  })
  return { bytes: writePng(width, height, words, components as 1 | 3 | 4), clipped }
}

/** Where a tile goes; undefined where the name holds one picture alone and the tile is another one. */
function nameFor(out: string, { u, v }: BakedTile): string | undefined {
  if (!out.includes(TILE)) return u === 0 && v === 0 ? out : undefined
  if (u < 0 || u > 9 || v < 0) return undefined
  return out.replace(TILE, String(1001 + u + 10 * v))
}

async function modelFor(o: Options): Promise<Model> {
  const on = o.text('on')
  if (!on) throw new InputError('bake needs a model: --on MODEL')
  const model = await readModel(on, unitFactor(o.text('unit')))
  return o.has('unwrap') ? (await unwrapModel(model)).model : model
}

/** `wavelume bake`: a node, a field or a relief as pictures over a model's coordinates. */
async function bake(o: Options): Promise<unknown> {
  const out = o.text('output')
  if (!out) throw new InputError('bake needs -o out.exr or out.png')
  checkOutput(out.replace(TILE, '1001'), ['.exr', '.png'])
  const srgb = o.has('srgb')
  if (srgb && /\.exr$/i.test(out)) throw new InputError('an .exr is linear; --srgb is for .png')
  const [width, height] = parseSize(o.text('size') ?? '1024x1024')
  if (width * height > LARGEST_PICTURE) throw new InputError('--size: that is more than a picture can hold')
  const set = o.number('set', 1, 1, MORE_SETS + 1)
  const padding = o.number('padding', PADDING, 0, 1024)
  if (!Number.isInteger(set) || !Number.isInteger(padding))
    throw new InputError('--set and --padding take whole numbers')
  const model = await modelFor(o)
  const geometry = createGeometry(model)
  const baked = bakedBy(o, geometry)
  const options = { width, height, components: baked.components, set: set - 1, padding, part: o.text('part') }
  let tiles
  try {
    tiles = bakeModel(model, options, baked.at)
  } catch (e) {
    throw e instanceof RangeError ? new InputError(e.message) : e
  }
  const files = []
  for (const tile of tiles) {
    const covered = tile.covered.reduce((n, c) => n + (c === 1 ? 1 : 0), 0)
    const file = nameFor(out, tile)
    if (file === undefined) {
      if (covered > 0)
        console.error(
          `lost: what lies in the square from u ${tile.u}, v ${tile.v} on; ${TILE} in the name keeps it`,
        )
      continue
    }
    if (tile.twice > 0)
      console.error(`${file}: ${tile.twice} texels are covered more than once; the first is kept`)
    const { bytes, clipped } = bytesOf(tile, out, options, baked, srgb)
    if (clipped > 0)
      console.error(`${file}: ${clipped} numbers are beyond 0 to 1 and are cut off; an .exr keeps them`)
    writeFileSync(file, bytes)
    files.push({ file, covered: covered / (width * height), twice: tile.twice, clipped })
  }
  if (files.length === 0) throw new InputError('no texel is covered')
  return { width, height, components: baked.components, files }
}

export const command: Command = {
  usage:
    'wavelume bake [FILE.mtlx] --on MODEL (--node NODE | --relief height|normal [--material NAME] | ' +
    '--field curvature|occlusion|thickness --radius 2mm [--side convex|concave|both]) [--part NAME] [--set 1] ' +
    '[--unwrap] [--size 1024x1024] [--padding 8] [--time SECONDS] [--unit mm] [--srgb] -o out.<UDIM>.exr|.png',
  takes: () => ({
    words: 1,
    options: {
      on: VALUE,
      node: VALUE,
      relief: VALUE,
      material: VALUE,
      field: VALUE,
      radius: VALUE,
      side: VALUE,
      part: VALUE,
      set: VALUE,
      unwrap: FLAG,
      size: VALUE,
      padding: VALUE,
      time: VALUE,
      unit: VALUE,
      srgb: FLAG,
      output: OUTPUT,
    },
  }),
  run: bake,
}
