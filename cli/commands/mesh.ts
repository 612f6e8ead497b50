import { writeFileSync } from 'node:fs'
import { fieldAtVertices } from '../../core/fields/at-vertices'
import { writeGlb } from '../../core/formats/models/glb-write'
import { writeObj } from '../../core/formats/models/obj-write'
import { writePly } from '../../core/formats/models/ply-write'
import { isClosed } from '../../core/mesh/closed'
import { areaOf, boundsOf, joinedMesh, volumeOf } from '../../core/mesh/measures'
import type { Model } from '../../core/mesh/model'
import { unwrapModel } from '../../core/mesh/unwrap'
import { MOST_LEVELS } from '../../core/mesh/subdivision/levels'
import { subdividePart } from '../../core/mesh/subdivision/subdivide'
import { materialsOf, nameOf } from '../../core/network/document'
import { bytesOfGeometry, createGeometry } from '../../core/scene/geometry'
import { shapeModel, shapingsOf } from '../../core/shape/shape-model'
import { shapingOf } from '../../core/shape/shaping'
import { compileMaterial, createMapShelf, mapsFor } from '../../core/world/compile-material'
import { askedField } from '../asked-field'
import { folderOf, pictureReader, readMaterial, readModel } from '../files'
import { withHelpers } from '../helpers'
import { checkOutput, InputError, FLAG, lengthOf, OUTPUT, unitFactor, VALUE, type Options } from '../options'
import { report } from '../report'
import type { Command } from '../command'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

/** The model with more faces, by `--subdivide`. */
function subdivided(model: Model, o: Options): Model {
  const levels = o.number('subdivide', 0, 0, MOST_LEVELS)
  if (!Number.isInteger(levels)) throw new InputError('--subdivide takes a whole number of steps')
  if (levels === 0) return model
  const crease = o.has('crease') ? o.number('crease', 0, 0, 180) : undefined
  return { parts: model.parts.map(p => (p.copy ? p : subdividePart(p, { levels, crease }))) }
}

/** The model as a document's material shapes it, by `--displace`. */
function displaced(model: Model, o: Options): Model {
  const file = o.text('displace')
  if (file === undefined) return model
  const document = readMaterial(file)
  const names = materialsOf(document).map(nameOf)
  const name = o.text('material')
  if (name !== undefined && !names.includes(name))
    throw new InputError(`there is no material ${name}; known are ${names.join(', ')}`)
  const program = compileMaterial(document, name)
  report(program)
  const shelf = createMapShelf()
  const edge = lengthOf(o, 'edge')
  const shaping = shapingOf(program, p => mapsFor(p, pictureReader(folderOf(file)), shelf), { edge })
  if (!shaping) throw new InputError(`${file}: the material ${name ?? names[0] ?? ''} displaces nothing`)
  return shapeModel(
    model,
    shapingsOf(model, () => shaping),
    undefined,
    undefined,
    ({ name: part }, { edge: made, wanted }) =>
      console.error(
        `${part}: edges are ${(made * 1000).toPrecision(3)} mm and not ${(wanted! * 1000).toPrecision(3)}: ` +
          'more would not fit into memory',
      ),
  )
}

/** Least, greatest and mean value of the vertices that triangles have. */
function range(values: readonly Float32Array[], { parts }: Model) {
  let min = Infinity
  let max = -Infinity
  let sum = 0
  let count = 0
  values.forEach((array, i) => {
    for (const v of new Set(parts[parts[i]!.copy?.of ?? i]!.index)) {
      const x = array[v]!
      min = Math.min(min, x)
      max = Math.max(max, x)
      sum += x
      count++
    }
  })
  return { min, max, mean: sum / count }
}

/** `wavelume mesh`: what a mesh is once it is subdivided and displaced, and fields at its vertices. */
async function mesh(o: Options): Promise<unknown> {
  const file = o.words[0]
  if (!file) throw new InputError('mesh needs a model')
  const out = o.text('output')
  if (out !== undefined) checkOutput(out, ['.ply', '.glb', '.obj'])
  const asked = askedField(o)
  if (asked && out !== undefined && !/\.ply$/i.test(out))
    console.error('lost: the field, which goes into the vertices of a .ply alone')
  const read = await readModel(file, unitFactor(o.text('unit')))
  const start = performance.now()
  const fine = subdivided(read, o)
  const unwrapped = o.has('unwrap') ? await unwrapModel(fine) : undefined
  const model = displaced(unwrapped?.model ?? fine, o)
  const geometry = await withHelpers(model, call => createGeometry(model, new Set(), shared, call))
  const seconds = (performance.now() - start) / 1000
  const whole = joinedMesh(model)
  const values = asked && fieldAtVertices(model, geometry.hierarchy, asked.field, asked.radius, asked.side)
  if (out !== undefined && /\.ply$/i.test(out))
    writeFileSync(out, writePly(model, values && { name: asked.name, values }))
  else if (out !== undefined && /\.obj$/i.test(out)) writeFileSync(out, writeObj(model))
  else if (out !== undefined) writeFileSync(out, await writeGlb(model))
  return {
    vertices: whole.position.length / 3,
    triangles: whole.index.length / 3,
    closed: isClosed(whole),
    volume: volumeOf(whole),
    area: areaOf(whole),
    bounds: boundsOf(model),
    bytes: bytesOfGeometry(geometry),
    seconds,
    ...(unwrapped ? { unwrap: { charts: unwrapped.charts, covered: unwrapped.covered } } : {}),
    ...(values ? { field: range(values, model) } : {}),
  }
}

export const command: Command = {
  usage:
    'wavelume mesh IN [--subdivide N] [--crease DEGREES] [--displace FILE.mtlx] [--material NAME] [--edge 0.5mm] ' +
    '[--field curvature|occlusion|thickness --radius 2mm --side convex|concave|both] [--unwrap] [--unit mm] ' +
    '[-o out.ply|.glb|.obj] --json',
  takes: () => ({
    words: 1,
    options: {
      subdivide: VALUE,
      crease: VALUE,
      displace: VALUE,
      material: VALUE,
      edge: VALUE,
      field: VALUE,
      radius: VALUE,
      side: VALUE,
      unwrap: FLAG,
      unit: VALUE,
      output: OUTPUT,
    },
  }),
  run: mesh,
}
