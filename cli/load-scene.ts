import { report } from './report'
import { USUAL_BOUNCES } from '../core/scene/bounces'
import { resolve } from 'node:path'
import { MAP_MEMORY } from '../core/maps/plan'
import type { Picture } from '../core/formats/pictures/picture'
import { rigSchema, type Rig } from '../core/scene/rig'
import { atTime, type Program } from '../core/network/compile'
import type { Element } from '../core/network/document'
import { materialsOf, nameOf } from '../core/network/document'
import { defaultCamera, type Camera } from '../core/scene/camera'
import { sceneSchema, type SceneDocument } from '../core/scene/document'
import { createGeometry } from '../core/scene/geometry'
import { shapeModel, shapingsOf } from '../core/shape/shape-model'
import { shapingOf } from '../core/shape/shaping'
import { buildWorld } from '../core/world/build-world'
import { faultyPixels } from '../core/light/environment'
import { layerNames } from '../core/light/create-lights'
import { compileMaterial, createMapShelf, mapsFor, neutralDocument } from '../core/world/compile-material'
import { fieldsFor } from '../core/world/fields-for'
import { lightsFor } from '../core/world/lights-for'
import type { World } from '../core/world/world'
import { folderOf, pictureReader, readBytes, readMaterial, readModel } from './files'
import { withHelpers } from './helpers'
import { createTileFile } from './tile-file'
import { InputError, unitFactor, VALUE, VALUES, type Options, type Takes } from './options'

export interface LoadedScene {
  world: World
  camera: (width: number, height: number) => Camera
  documents: Element[]
  /** Names of the lights that can be told apart. */ lights: string[]
}

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

/** Options that say what is rendered. */
export const SCENE_OPTIONS: Takes['options'] = {
  'lights': VALUE,
  'camera': VALUE,
  'materials': VALUE,
  'assign': VALUES,
  'environment': VALUE,
  'unit': VALUE,
  'time': VALUE,
  'map-memory': VALUE,
}

/** Seconds of `--time`. */
const timeOf = (options: Options): number | undefined =>
  options.has('time') ? options.number('time', 0, -1e6, 1e6) : undefined

/** What `--map-memory` leaves maps, and where the tiles go that do not fit. */
function mapMemory(options: Options) {
  const store = createTileFile()
  return {
    room: { bytes: options.number('map-memory', MAP_MEMORY, 16, 2 ** 20) * 2 ** 20, store },
    readerOf: () => store,
  }
}

/** Loads what `render` was given: a scene file, or a model with materials. */
export async function loadScene(file: string, options: Options, bake: boolean): Promise<LoadedScene> {
  return /\.scene\.json$/i.test(file) ? loadSceneFile(file, options, bake) : loadModelFile(file, options, bake)
}

/** Reads and checks a scene file. */
export function readScene(file: string): SceneDocument {
  let json: unknown
  try {
    json = JSON.parse(new TextDecoder().decode(readBytes(file)))
  } catch (e) {
    if (e instanceof InputError) throw e
    throw new InputError(`${file}: ${e instanceof Error ? e.message : 'not JSON'}`)
  }
  const checked = sceneSchema.safeParse(json)
  if (!checked.success)
    throw new InputError(
      `${file}: ${checked.error.issues
        .map(i => `${i.path.join('.')}: ${i.message}`)
        .slice(0, 4)
        .join('; ')}`,
    )
  return checked.data
}

async function loadSceneFile(file: string, options: Options, bake: boolean): Promise<LoadedScene> {
  const scene = readScene(file)
  const folder = folderOf(file)
  const model = await readModel(resolve(folder, scene.model), unitFactor(options.text('unit')))
  const lightsName = options.text('lights') ?? scene.lights
  const rig = scene.rigs.find(r => r.name === lightsName)
  if (!rig)
    throw new InputError(
      `there is no light rig ${lightsName}; known are ${scene.rigs.map(r => r.name).join(', ')}`,
    )
  const documents = new Map<string, Element>()
  const readers = new Map<string | null, (file: string) => Picture | undefined>([[null, pictureReader(folder)]])
  for (const [key, m] of Object.entries(scene.materials)) {
    const path = m.document && resolve(folder, m.document)
    documents.set(key, path ? readMaterial(path) : neutralDocument)
    readers.set(key, pictureReader(path ? folderOf(path) : folder))
  }
  const maps = mapMemory(options)
  const world = await withHelpers(model, call =>
    buildWorld({
      scene,
      rig,
      model,
      documents,
      bake,
      allocate: shared,
      call,
      time: timeOf(options),
      compiled: report,
      ...maps,
      picture: (key, file) => (key === null ? sound(readers.get(key)!(file), file) : readers.get(key)!(file)),
    }),
  )
  const cameraName = options.text('camera')
  const camera = cameraName === undefined ? scene.cameras[0] : scene.cameras.find(c => c.name === cameraName)
  if (cameraName !== undefined && !camera) throw new InputError(`there is no camera ${cameraName}`)
  return {
    documents: [...documents.values()],
    lights: layerNames(rig),
    camera: (w, h) => camera ?? defaultCamera(world.geometry.hierarchy.bounds, w, h),
    world,
  }
}

async function loadModelFile(file: string, options: Options, bake: boolean): Promise<LoadedScene> {
  const model = await readModel(file, unitFactor(options.text('unit')))
  const materialsFile = options.text('materials')
  const document = materialsFile ? readMaterial(materialsFile) : neutralDocument
  const names = materialsOf(document).map(nameOf)
  const programs = (names.length ? names : [undefined]).map(n =>
    atTime(compileMaterial(document, n, bake), timeOf(options) ?? 0),
  )
  programs.forEach(report)
  const reader = pictureReader(materialsFile ? folderOf(materialsFile) : folderOf(file))
  const { room, readerOf } = mapMemory(options)
  const shelf = createMapShelf(shared, room)
  const partNames = model.parts.map(p => p.name)
  const materialOf = new Int32Array(partNames.length)
  for (const assignment of options.all('assign')) {
    const cut = assignment.lastIndexOf('=')
    const part = assignment.slice(0, cut)
    const material = assignment.slice(cut + 1)
    const p = partNames.indexOf(part)
    const m = names.indexOf(material)
    if (p < 0) throw new InputError(`there is no part ${part}; known are ${partNames.join(', ')}`)
    if (m < 0) throw new InputError(`there is no material ${material}; known are ${names.join(', ')}`)
    materialOf[p] = m
  }
  const mapsIn = (p: Program) => mapsFor(p, reader, shelf)
  const shapings = shapingsOf(model, (_, i) => shapingOf(programs[materialOf[i]!]!, mapsIn))
  const shaped = shapeModel(model, shapings, readerOf)
  const geometry = await withHelpers(shaped, call => createGeometry(shaped, new Set(), shared, call))
  const rig = environmentRig(options.text('environment') ?? 'uniform:1')
  return {
    documents: [document],
    lights: layerNames(rig),
    camera: (w, h) => defaultCamera(geometry.hierarchy.bounds, w, h),
    world: {
      geometry,
      lights: lightsFor(rig, pictureOf(options.text('environment')), shared),
      programs,
      maps: programs.map(mapsIn),
      materialOf,
      priorityOf: new Int32Array(geometry.partNames.length),
      fields: fieldsFor(geometry, programs, shared),
      maxOpaque: USUAL_BOUNCES,
      maxSpecular: USUAL_BOUNCES,
    },
  }
}

function environmentRig(text: string): Rig {
  const uniform = /^uniform:(.+)$/.exec(text)
  if (uniform) {
    const rgb = uniform[1]!.split(',').map(Number)
    if (![1, 3].includes(rgb.length) || rgb.some(x => !(x >= 0)))
      throw new InputError(`a uniform environment is written like uniform:1, not "${text}"`)
    return rigSchema.parse({
      name: 'Environment',
      environment: { kind: 'uniform', radiance: rgb.length === 3 ? rgb : [rgb[0], rgb[0], rgb[0]] },
    })
  }
  return rigSchema.parse({ name: 'Environment', environment: { kind: 'image', asset: text } })
}

const pictureOf =
  (file: string | undefined) =>
  (name: string): Picture | undefined => {
    if (name !== file) return undefined
    return sound(pictureReader(folderOf(name))(name.split('/').at(-1)!), name)
  }

/** Says what of an environment picture carries no light. @throws InputError where there is none: it is the light */
function sound(p: Picture | undefined, name: string): Picture {
  if (!p) throw new InputError(`there is no environment picture ${name}`)
  const faulty = faultyPixels(p)
  if (faulty)
    console.error(`warning: ${faulty} pixels of ${name} are negative, infinite or no numbers, and carry no light`)
  return p
}
