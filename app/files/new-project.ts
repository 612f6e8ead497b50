import { USUAL_BOUNCES } from '../../core/scene/bounces'
import type { ProjectState } from '../../shared/api'
import type { TranslatedMaterial } from '../../core/formats/models/translated'
import { BALL, illuminanceAt } from '../../core/formats/models/gltf-lights'
import type { Panel, Rig } from '../../core/scene/rig'
import { BACKDROP, rigsAround } from '../../core/scene/rigs'
import type { Element } from '../../core/network/document'
import { starters } from '../../core/network/starters'
import { defaultCamera } from '../../core/scene/camera'
import { api } from '../composables/api'
import { counted } from '../words/counted'
import { uniqueName } from '../../core/mesh/model'
import { MODEL } from '../../core/formats/models/ending'
import { idleWorkers } from '../renderer/early'
import type { PieceName } from '../../core/mesh/pieces/names'
import { createLoader, type Loader, type ReadModel } from '../renderer/loader'
import { mapFiles } from '../../core/network/map-files'

/** A first state, and what was found and mended in the file. */
export interface NewScene {
  state: ProjectState
  /** What came, as a line. */
  brought: string
  /** What did not come over whole, or is not what it was, a line each. */
  lost: string[]
}

/** What the page that makes a project provides. */
export interface Making {
  /** Told what is being done, and which of how many steps that is. */
  progress(what: string, step: number, of: number): void
  /** Asks what a unit of the model is, in metres, where the file does not say; undefined gives the import up. */
  unit(extent: readonly [number, number, number]): Promise<number | undefined>
  /** Stops the work: what is being read is dropped, and nothing is kept. */
  signal: AbortSignal
}

/** That the artist gave an import up. */
export class GivenUp extends Error {}

/** Where a model comes from: what it is called, and what reads it. */
export interface ModelSource {
  name: string
  read(loader: Loader): Promise<ReadModel>
}

/** A model file with those that it names. */
export function fromFiles(files: readonly File[]): ModelSource {
  const main = files.find(f => MODEL.test(f.name)) ?? files[0]!
  return {
    name: main.name,
    read: async loader =>
      loader.modelFrom(
        await Promise.all(
          [main, ...files.filter(f => f !== main)].map(async f => ({
            name: f.name,
            bytes: new Uint8Array(await f.arrayBuffer()),
          })),
        ),
      ),
  }
}

/** A test piece that is built in. */
export const fromPiece = (name: PieceName): ModelSource => ({ name, read: loader => loader.piece(name) })

/** Extents of a model in metres that need no question even where a format knows its unit. */
const PLAUSIBLE = { least: 0.0005, most: 500 }
const STEPS = 4

/**
 * Makes the first state of a project from a model and what came with it: its own materials as networks, neutral
 * plastic where a part has none, lights around its bounds, a camera that sees all of it.
 * @throws Error with the reader's words when the files cannot be read; {@link GivenUp} when the import was stopped
 */
export async function sceneFor(source: ModelSource, making: Making): Promise<NewScene> {
  const loader = createLoader(idleWorkers())
  const { name } = source
  const given = new Promise<never>((_, no) =>
    making.signal.addEventListener('abort', () => {
      loader.stop()
      no(new GivenUp('The import was stopped.'))
    }),
  )
  given.catch(() => undefined)
  /** A step of the work, which stops as soon as the import is given up. */
  const step = <T>(n: number, what: string, work: () => Promise<T>): Promise<T> => {
    making.progress(what, n, STEPS)
    return Promise.race([work(), given])
  }
  try {
    const { parts, materials, extent, unitKnown, missing, lights } = await step(1, `Reading ${name}`, () =>
      source.read(loader),
    )
    const size = Math.max(...extent)
    const unit =
      unitKnown && size >= PLAUSIBLE.least && size <= PLAUSIBLE.most
        ? 1
        : await Promise.race([making.unit(extent), given])
    if (unit === undefined) throw new GivenUp('The import was stopped.')
    const glb = await step(2, `Taking ${name} to metres`, () => loader.keepModel(unit))
    const b = (await step(3, `Building the hierarchy of ${name}`, () => loader.geometry([]))).hierarchy.bounds
    const model = await step(4, `Keeping ${name}`, () => api.putAsset(glb, `${name.replace(MODEL, '')}.glb`))
    const keys: string[] = []
    const taken = new Set<string>()
    const documents: Record<string, Element> = {}
    const brought = [counted(parts.length, 'part'), counted(materials.length, 'material')]
    const lost = [...missing]
    for (const m of materials) {
      const key = uniqueName(m.name.slice(0, 100) || 'Material', taken)
      keys.push(key)
      documents[key] = await withAssets(m)
      lost.push(...m.lost.map(l => `${key}: ${l}`))
    }
    if (parts.some(p => p.material < 0)) documents.Plastic ??= starters.find(s => s.key === 'plastic')!.make()
    const rigs = rigsAround(b)
    const own = ownRig(lights, unit, b)
    if (own)
      brought.push(
        `${counted(lights.length, 'light')} of the file as the rig ${own.rig.name}; ` +
          `points are balls of ${BALL * 200} cm, and the exposure is set by them`,
      )
    return {
      brought: brought.join(', '),
      lost: [...new Set(lost)],
      state: {
        materials: documents,
        scene: {
          format: 'wavelume-scene',
          version: 1,
          model,
          parts: parts.map(p => ({ name: p.name, material: keys[p.material] ?? 'Plastic', hidden: false })),
          materials: {},
          rigs: own ? [...rigs, own.rig] : rigs,
          lights: own?.rig.name ?? 'Three panels',
          cameras: [{ ...defaultCamera(b, 16, 10), name: 'First' }],
          maxOpaque: USUAL_BOUNCES,
          maxSpecular: USUAL_BOUNCES,
          exposure: own?.exposure ?? 0,
        },
      },
    }
  } finally {
    loader.stop()
  }
}

/**
 * The lights of a file as a rig of their own, and the exposure at which white in the middle of the model comes out
 * white.
 */
function ownRig(
  lights: readonly Panel[],
  unit: number,
  b: ArrayLike<number>,
): { rig: Rig; exposure: number } | undefined {
  if (!lights.length) return undefined
  const panels = lights.map(p => ({ ...p, centre: p.centre.map(c => c * unit) as [number, number, number] }))
  const lux = illuminanceAt(
    panels,
    [0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2),
  )
  return {
    rig: {
      name: 'From the file',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels,
      turn: 0,
      dim: 1,
      backdrop: BACKDROP,
      own: true,
    },
    exposure: lux > 0 ? Math.max(-20, Math.min(20, +Math.log2((0.8 * Math.PI) / lux).toFixed(1))) : 0,
  }
}

/** Keeps a material's embedded images as assets, and names them so. */
async function withAssets(m: TranslatedMaterial): Promise<Element> {
  const hashes: string[] = []
  for (const i of m.images) hashes.push(await api.putAsset(i.bytes, i.name))
  return mapFiles(m.document, (value, attributes) => {
    const n = /^embedded:(\d+)$/.exec(value)?.[1]
    return n !== undefined && hashes[+n] ? { ...attributes, value: `asset:${hashes[+n]}` } : attributes
  })
}
