/** Reads files and builds geometry off the page's own thread. One request, one answer. */
import type { Model } from '../../core/mesh/model'
import { developPicture } from '../../core/render/display'
import { shrink } from '../../core/render/shrink'
import { createGeometry, type Geometry } from '../../core/scene/geometry'
import type { MeshFacts } from '../../core/checks/part-rule'
import { displaces } from '../../core/network/displacement'
import { GEOMETRY_VERSION, unpackGeometry } from '../../core/scene/geometry-pack'
import type { Shaping } from '../../core/shape/shaping'
import { createTileStore } from './tile-store'
import { keepGeometry, keptGeometry } from './geometry-cache'
import { geometryKeyOf } from '../renderer/geometry-key'
import { hiddenParts } from '../renderer/hidden'
import type { Project } from '../../shared/api'
import type { Picture } from '../../core/formats/pictures/picture'
import type { BuildShare } from '../../core/trace/build-share'
import { readPatiently } from './read-patiently'
import type { FromLoader, LoaderRequest, ReadModel, ReadPicture } from '../renderer/loader'

/** The readers are large, and a project that was opened before needs none of them. */
const readers = () => import('./readers')
type Shapings = ReadonlyMap<string, Shaping>

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
/** Asks the render workers to help with a hierarchy. */
const call = (share: BuildShare): void => postMessage({ share } satisfies FromLoader)
/** Model read last, by what it was read from: an asset's hash, or bytes at hand. */
let model: { of: string; read: Promise<Model> } = { of: '-', read: Promise.resolve({ parts: [] }) }
/** Stands for a hash where a model was read from a file that is no asset yet. */
const BYTES = ''
/** Bytes that the model was read from, where they can be kept as they are. */
let original: Uint8Array | undefined
/** Environment picture asked for last, by its name. */
const environments = new Map<string, Picture>()
/** Where tiles of maps are kept that do not fit into memory; made when the first one comes. */
let tiles: ReturnType<typeof createTileStore> | undefined
/** Geometry built last: begun as soon as a project says what it will need. */
let geometry: { key: string; built: Promise<Geometry> } | undefined

async function fetched(url: string): Promise<Response> {
  const r = await fetch(url)
  if (!r.ok)
    throw new Error(
      ((await r.json().catch(() => undefined)) as { message?: string } | undefined)?.message ??
        `The server answered ${r.status}.`,
    )
  return r
}

function readModel(hash: string): Promise<Model> {
  if (model.of !== hash) {
    model = {
      of: hash,
      read: Promise.all([readers(), fetched(`/api/assets/${hash}`).then(r => r.arrayBuffer())]).then(([r, b]) =>
        r.readGlb(new Uint8Array(b)),
      ),
    }
    model.read.catch(() => {
      if (model.of === hash) model.of = '-'
    }) // asked for again, it is read again
  }
  return model.read
}

/** Geometry that was built when the project was made, where the server has it. */
async function builtGeometry(hash: string): Promise<Geometry | undefined> {
  const answer = await fetch(`/api/geometry/${hash}?version=${GEOMETRY_VERSION}`).catch(() => undefined)
  return answer?.status === 200 ? unpackGeometry(new Uint8Array(await answer.arrayBuffer()), shared) : undefined
}

/** Geometry of a model as its materials shape it. */
async function shaped(model: Model, hidden: readonly string[], shapings: Shapings): Promise<Geometry> {
  if (shapings.size === 0) return createGeometry(model, new Set(hidden), shared, call)
  const { shapeModel, shapingsOf } = await import('../../core/shape/shape-model')
  const byNumber = shapingsOf(model, name => shapings.get(name))
  const store = await tiles
  return createGeometry(
    shapeModel(model, byNumber, () => store),
    new Set(hidden),
    shared,
    call,
  )
}

/**
 * Geometry of a model that is kept as an asset: from this browser's store, from the server, or built; then it is
 * put into the store. What materials shape is built each time: its keys are as many as an artist's values.
 */
async function buildAsset(
  hash: string,
  hidden: readonly string[],
  shapings: Shapings,
  key: string,
): Promise<Geometry> {
  if (shapings.size > 0) return shaped(await readModel(hash), hidden, shapings)
  const kept = await keptGeometry(key)
  if (kept) return kept
  const given = hidden.length ? undefined : await builtGeometry(hash)
  const built = given ?? (await shaped(await readModel(hash), hidden, shapings))
  setTimeout(() => void keepGeometry(key, built), 2000)
  return built
}

function build(hash: string, hidden: readonly string[], shapings: Shapings): Promise<Geometry> {
  const key = geometryKeyOf(hidden, shapings, hash)
  if (geometry?.key !== key) {
    geometry = {
      key,
      built:
        hash === BYTES
          ? model.read.then(m => shaped(m, hidden, shapings))
          : buildAsset(hash, hidden, shapings, key),
    }
    geometry.built.catch(() => {
      geometry = undefined
    })
  }
  return geometry.built
}

async function answer(r: LoaderRequest): Promise<unknown> {
  switch (r.kind) {
    case 'open': {
      const project = (await (await fetched(`/api/projects/${encodeURIComponent(r.project)}`)).json()) as Project
      // while the page is still being laid out
      const { model: hash, parts } = project.state.scene
      // what displaces its parts is compiled by the page
      if (!Object.values(project.state.materials).some(displaces) && !parts.some(p => p.subdivide))
        build(hash, hiddenParts(parts, null), new Map()).catch(() => undefined)
      return project
    }
    case 'files': {
      geometry = undefined
      const { extentOf, readModelFiles } = await readers()
      const read = await readModelFiles(r.files)
      model = { of: BYTES, read: Promise.resolve(read.model) }
      // a binary glTF in metres is kept as it came
      original = /\.glb$/i.test(r.files[0]!.name) ? r.files[0]!.bytes : undefined
      return {
        parts: read.model.parts.map((p, i) => ({ name: p.name, material: read.materialOf[i]! })),
        materials: read.materials,
        extent: extentOf(read.model),
        unitKnown: read.unitKnown,
        missing: read.missing,
        lights: read.lights,
      } satisfies ReadModel
    }
    case 'piece': {
      geometry = undefined
      const [{ PIECES }, { isGround }, { extentOf }, { groundMaterial }] = await Promise.all([
        import('../../core/mesh/pieces'),
        import('../../core/mesh/pieces/ground'),
        import('../../core/mesh/extent'),
        import('../files/ground'),
      ])
      const made = PIECES[r.name]()
      const onGround = made.parts.map(p => isGround(p.name, made))
      model = { of: BYTES, read: Promise.resolve(made) }
      original = undefined
      return {
        parts: made.parts.map((p, i) => ({ name: p.name, material: onGround[i] ? 0 : -1 })),
        materials: onGround.includes(true) ? [groundMaterial()] : [],
        extent: extentOf(made),
        unitKnown: true,
        missing: [],
        lights: [],
      } satisfies ReadModel
    }
    case 'keep': {
      if (r.scale === 1 && original) return original
      const { scaleModel, writeGlb } = await readers()
      const m = await model.read
      scaleModel(m, r.scale)
      geometry = undefined
      return writeGlb(m)
    }
    case 'geometry':
      return build(r.hash ?? BYTES, r.hidden, r.shapings)
    case 'lights': {
      const { environment } = r.rig
      const name = environment.kind === 'image' ? environment.asset : ''
      // tables are kept by the picture that they are of; a message brings a new one each time
      if (r.picture && !environments.has(name)) {
        environments.clear()
        environments.set(name, r.picture)
      }
      const { lightsFor } = await import('../../core/world/lights-for')
      return lightsFor(r.rig, () => environments.get(name), shared)
    }
    case 'shapes': {
      const { closedParts } = await import('../../core/scene/closed-parts')
      const { mappedParts } = await import('../../core/scene/mapped-parts')
      const { partSizes } = await import('../../core/scene/part-sizes')
      const built = await geometry?.built
      return (
        built
          ? { closed: closedParts(built), mapped: mappedParts(built), sizes: partSizes(built) }
          : { closed: new Map(), mapped: new Map(), sizes: new Map() }
      ) satisfies MeshFacts
    }
    case 'picture': {
      const p = await readPatiently(r.bytes)
      const data =
        p.data instanceof Float32Array
          ? new Float32Array(shared(p.data.byteLength))
          : new Uint8Array(shared(p.data.byteLength))
      data.set(p.data)
      const { faultyPixels } = await import('../../core/light/environment')
      return {
        width: p.width,
        height: p.height,
        data,
        ...(p.space ? { space: p.space } : {}),
        ...(p.depth ? { depth: p.depth } : {}),
        faulty: faultyPixels(p),
      } satisfies ReadPicture
    }
    case 'map': {
      const [p, { createMap }, { planFor }] = await Promise.all([
        readPatiently(r.bytes),
        import('../../core/maps/create-map'),
        import('../../core/maps/plan'),
      ])
      const how = { id: r.of, allocate: shared }
      const { skip, pageBytes } = planFor(p, r.room, true)
      if (pageBytes === undefined) return createMap(p, r.colorspace, { ...how, skip })
      const store = await (tiles ??= createTileStore())
      if (store)
        try {
          return createMap(p, r.colorspace, { ...how, skip, pages: { store, bytes: pageBytes } })
        } catch {
          // the disk is full: fewer levels will do
        }
      return createMap(p, r.colorspace, { ...how, skip: planFor(p, r.room, false).skip })
    }
    case 'difference': {
      const { differenceMap } = await import('../../core/judge/difference-map')
      return differenceMap(r.a, r.b, r.width, r.height)
    }
    case 'exr': {
      const { rgbChannels, writeExr } = await readers()
      return writeExr({ width: r.width, height: r.height, attributes: r.attributes, channels: rgbChannels(r.rgb) })
    }
    case 'png': {
      const { width: w, height: h, rgb: small } = shrink(r.rgb, r.width, r.height, r.most)
      const bytes = new Uint8ClampedArray(w * h * 4)
      developPicture(small, r.look.exposure, bytes, r.look.balance, r.look.neutral)
      const { writePng } = await readers()
      return writePng(w, h, new Uint8Array(bytes.buffer))
    }
  }
}

addEventListener('message', async (event: MessageEvent<LoaderRequest & { id: number }>) => {
  try {
    postMessage({ id: event.data.id, value: await answer(event.data) } satisfies FromLoader)
  } catch (e) {
    postMessage({ id: event.data.id, error: e instanceof Error ? e.message : String(e) } satisfies FromLoader)
  }
})
