/** Computes bands of frames on threads of this machine, keeps their sums as they grow, and makes pictures of them. */
import { promisify } from 'node:util'
import { deflate, inflate } from 'node:zlib'
import type { Knex } from 'knex'
import { MAP_MEMORY } from '../core/maps/plan'
import { readGlb } from '../core/formats/models/glb'
import type { Picture } from '../core/formats/pictures/picture'
import { readPicture } from '../core/formats/pictures'
import { layerNames } from '../core/light/create-lights'
import { ASSET } from '../core/network/asset'
import { piecesOfBand, tilesOfBand } from '../core/render/bands'
import { createFilm, tilePasses, type Film } from '../core/render/film'
import { filmBytes, packPiece, pieceCount, tilesOfPiece, unpackPiece } from '../core/render/film-pieces'
import { shrink } from '../core/render/shrink'
import { buildWorld } from '../core/world/build-world'
import type { World } from '../core/world/world'
import { getAsset, putAsset } from '../server/database/assets'
import {
  dropPieces,
  endFrame,
  FINISH,
  keepPiece,
  keepProgress,
  leaveBand,
  piecesOf,
  type FrameWork,
} from '../server/database/bands'
import { frameAsProof, removeFrame, type Becomes } from '../server/database/frames'
import { keepProof } from '../server/database/proofs'
import { denoised } from './denoised'
import { developedPng, pictureFile } from './picture-file'
import { createTileFile, type TileFile } from './tile-file'
import { renderOnThreads, SUMS } from './pool'

/** What the denoiser asks of a film. */
const DENOISED = ['albedo', 'normal'] as const
/** Milliseconds that one keeping of sums takes at most; what it did not get to comes first in the next. */
const LONGEST_KEEPING = 2000
/** Pieces that are packed side by side, and how hard: the least effort, for threads wait meanwhile. */
const AT_ONCE = 4
const EFFORT = { level: 1 }
const squeeze = promisify<Uint8Array, { level: number }, Buffer>(deflate)
const unsqueeze = promisify<Uint8Array, { maxOutputLength: number }, Buffer>(inflate)
/** Largest piece that is read back, bytes. */
const LARGEST_PIECE = 64 * 2 ** 20
const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

/** How a frame is computed. */
export interface How {
  threads: number
  /** Least seconds between two keepings. */
  keep: number
  /** What its film may take, MiB, and how long it may be computed, hours. */
  mebibytes: number
  hours: number
  /** Whether this worker is to end. */
  ended(): boolean
}

/** Puts what was kept of some pieces onto a film. */
async function takeBack(db: Knex, id: string, film: Film, pieces: readonly number[]): Promise<void> {
  for await (const { piece, passes, bytes } of piecesOf(db, id, pieces))
    unpackPiece(film, piece, await unsqueeze(bytes, { maxOutputLength: LARGEST_PIECE }), passes, SUMS)
}

/** Keeps pieces of a film in turn, each time as many as there is time for, ms. */
function createKeeper(db: Knex, id: string, pieces: readonly number[]) {
  let next = 0
  return async (film: Film, time: number): Promise<void> => {
    const began = performance.now()
    for (let kept = 0; kept < pieces.length && performance.now() - began < time; kept += AT_ONCE) {
      const some = Array.from(
        { length: Math.min(AT_ONCE, pieces.length - kept) },
        (_, i) => pieces[(next + i) % pieces.length]!,
      )
      await Promise.all(
        some.map(async piece => {
          const passes = tilePasses(film, tilesOfPiece(film.width, film.height, piece)[0]!, SUMS)
          await keepPiece(db, id, { piece, passes, bytes: await squeeze(packPiece(film, piece), EFFORT) })
        }),
      )
      next = (next + some.length) % pieces.length
    }
  }
}

/**
 * Pictures of a project by the name that documents give them; read before anything is built, because a database is
 * asked and not a disk.
 */
async function picturesOf(db: Knex, state: FrameWork['state']): Promise<Map<string, Picture>> {
  const names = new Set(JSON.stringify(state).match(/asset:[0-9a-f]{64}/g))
  const all = new Map<string, Picture>()
  for (const name of names) {
    const asset = await getAsset(db, ASSET.exec(name)![1]!)
    if (asset && asset.type !== 'model/gltf-binary') all.set(name, readPicture(new Uint8Array(asset.bytes)))
  }
  return all
}

/** A frame that is opened: its world and what is asked of its film. */
interface Opened {
  world: World
  lights: readonly string[]
  film: { aov: readonly string[]; squares: boolean }
  tiles: TileFile
}

async function openFrame(db: Knex, { settings: s, state, becomes }: FrameWork): Promise<Opened> {
  const { scene, materials } = state
  const model = await getAsset(db, scene.model)
  const rig = scene.rigs.find(r => r.name === scene.lights)
  if (!model) throw new Error('The model is not in the database any more.')
  if (!rig) throw new Error(`There is no light rig ${scene.lights}.`)
  const pictures = await picturesOf(db, state)
  const tiles = createTileFile()
  try {
    const world = buildWorld({
      scene,
      rig,
      model: await readGlb(new Uint8Array(model.bytes)),
      documents: new Map(Object.entries(materials)),
      bake: s.passes >= 16,
      allocate: shared,
      picture: (_, file) => pictures.get(file),
      room: { bytes: MAP_MEMORY * 2 ** 20, store: tiles },
      readerOf: () => tiles,
    })
    // what is looked at small is denoised, which asks for these
    const film = { aov: becomes ? DENOISED : s.aov, squares: becomes !== null }
    return { world, lights: layerNames(rig), film, tiles }
  } catch (e) {
    tiles.close()
    throw e
  }
}

/** Computes bands of frames, and keeps the frame open that the last one was of: bands of one often follow another. */
export function createFrameBench(db: Knex) {
  let open: { id: string; frame: Opened } | undefined
  function close(): void {
    open?.frame.tiles.close()
    open = undefined
  }
  async function opened(work: FrameWork): Promise<Opened> {
    if (open?.id !== work.id) {
      close()
      open = { id: work.id, frame: await openFrame(db, work) }
    }
    return open.frame
  }
  return {
    close,
    /**
     * Does work that the caller holds, or as much of it as is wanted.
     * @throws Error with the reason for which it cannot be done
     */
    async compute(work: FrameWork, how: How): Promise<void> {
      const frame = await opened(work)
      const { width, height } = work.settings
      const needs = filmBytes(width, height, { ...frame.film, lights: frame.world.lights.layerCount }) / 2 ** 20
      if (needs > how.mebibytes)
        throw new Error(
          `Its film needs ${Math.ceil(needs)} MiB; this worker gives one frame ${Math.floor(how.mebibytes)} ` +
            '(WAVELUME_FRAME_MEMORY).',
        )
      if (work.band === FINISH) await finish(db, work, frame)
      else await computeBand(db, work, frame, how)
    },
  }
}

/** Computes the passes of a band, and keeps its sums meanwhile. */
async function computeBand(
  db: Knex,
  { id, settings: s, band, bands, seconds }: FrameWork,
  { world, film }: Opened,
  { threads, keep, hours, ended }: How,
): Promise<void> {
  const pieces = piecesOfBand(s.width, s.height, band, bands)
  const keepPieces = createKeeper(db, id, pieces)
  let wanted = true
  let told = 0
  let began = performance.now()
  let spent = 0
  const r = await renderOnThreads(world, s.camera, {
    ...film,
    width: s.width,
    height: s.height,
    from: 0,
    to: s.passes,
    seed: s.seed,
    threads,
    tiles: tilesOfBand(s.width, s.height, band, bands),
    resume: film => takeBack(db, id, film, pieces),
    async between(film, passes) {
      const now = performance.now()
      spent += (now - began) / 1000
      if (seconds + spent > hours * 3600)
        throw new Error(`It was computed for more than ${hours} hours (WAVELUME_FRAME_HOURS).`)
      // the last keeping is of all
      await keepPieces(film, passes === s.passes ? Infinity : LONGEST_KEEPING)
      wanted = await keepProgress(db, id, band, passes, seconds + spent)
      told = passes
      began = performance.now()
      // large sums are kept more seldom: keeping takes no more than a tenth of the time
      return wanted && !ended() ? Math.max(keep, (began - now) / 100) : undefined
    },
  })
  // a worker may have ended when all was kept and before it said so: then nothing was left to compute
  if (told < r.passes) wanted = await keepProgress(db, id, band, r.passes, seconds + spent)
  // stopped, or this worker ends: another goes on
  if (!wanted) await dropPieces(db, id)
  else if (r.passes < s.passes) await leaveBand(db, id, band)
}

/** Makes the picture of a frame whose bands are complete. */
async function finish(
  db: Knex,
  { id, name, settings: s, state, becomes }: FrameWork,
  { world, lights, film: options }: Opened,
): Promise<void> {
  const { width, height, passes } = s
  const film = createFilm(width, height, { ...options, lights: world.lights.layerCount, allocate: shared })
  await takeBack(db, id, film, [...Array(pieceCount(width, height)).keys()])
  const rgb = becomes ? denoised(film) : Float32Array.from(film.sum, x => x / passes)
  const exposure = becomes?.exposure ?? 0
  const small = shrink(rgb, width, height, 240)
  const exrOf = () =>
    pictureFile(film, {
      documents: Object.values(state.materials),
      lights: [...lights],
      seed: s.seed,
      passes,
      says: `1-${passes}`,
      clamp: state.scene.clamp,
    })
  const picture =
    becomes?.kind === 'reference'
      ? await putAsset(db, developedPng(rgb, width, height, exposure), 'image/png', 'reference.png')
      : await putAsset(db, exrOf(), 'image/x-exr', `${name}.exr`)
  const thumbnail = await putAsset(
    db,
    developedPng(small.rgb, small.width, small.height, exposure),
    'image/png',
    'frame.png',
  )
  await endFrame(db, id, { status: 'done', picture, thumbnail, passes })
  if (becomes) await keepStill(db, id, becomes)
}

/** Keeps a finished frame among the proofs of its project, where it was asked for as one. */
async function keepStill(db: Knex, id: string, { kind, name }: Becomes): Promise<void> {
  const made = await frameAsProof(db, id)
  if (!made) return
  const settings = kind === 'proof' ? made.proof.settings : {}
  await keepProof(db, made.project, { ...made.proof, kind, name, settings })
  await removeFrame(db, id)
}
