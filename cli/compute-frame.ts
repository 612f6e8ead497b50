/** Computes a frame on threads of this machine, keeps its sums as they grow, and its picture once it is done. */
import { promisify } from 'node:util'
import { deflate, inflate } from 'node:zlib'
import type { Knex } from 'knex'
import { MAP_MEMORY } from '../core/maps/plan'
import { readGlb } from '../core/formats/models/glb'
import type { Picture } from '../core/formats/pictures/picture'
import { readPicture } from '../core/formats/pictures'
import { lightCount } from '../core/light/lights'
import { lightNames } from '../core/light/create-lights'
import { ASSET } from '../core/network/asset'
import { tilePasses, type Film } from '../core/render/film'
import { filmBytes, packPiece, pieceCount, tilesOfPiece, unpackPiece } from '../core/render/film-pieces'
import { shrink } from '../core/render/shrink'
import { buildWorld } from '../core/world/build-world'
import { getAsset, putAsset } from '../server/database/assets'
import {
  dropPieces,
  endFrame,
  frameAsProof,
  keepPiece,
  keepProgress,
  leaveFrame,
  piecesOf,
  removeFrame,
  type Becomes,
  type FrameWork,
} from '../server/database/frames'
import { keepProof } from '../server/database/proofs'
import { denoised } from './denoised'
import { developedPng, pictureFile } from './picture-file'
import { createTileFile, type TileFile } from './tile-file'
import { renderOnThreads, SUMS } from './pool'

/** What the denoiser asks of a film. */
const DENOISED = ['albedo', 'normal'] as const
/** Milliseconds that one keeping of sums takes at most; what it did not get to comes first in the next. */
const LONGEST_KEEPING = 2000
/** Pieces that are packed side by side, and how hard: sums are mostly noise, so the least effort saves almost all. */
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

/** Puts what was kept of a frame onto its film. */
async function takeBack(db: Knex, id: string, film: Film): Promise<void> {
  for await (const { piece, passes, bytes } of piecesOf(db, id))
    unpackPiece(film, piece, await unsqueeze(bytes, { maxOutputLength: LARGEST_PIECE }), passes, SUMS)
}

/** Keeps pieces of a film in turn, each time as many as there is time for. */
function createKeeper(db: Knex, id: string) {
  let next = 0
  return async (film: Film): Promise<void> => {
    const count = pieceCount(film.width, film.height)
    const began = performance.now()
    for (let kept = 0; kept < count && performance.now() - began < LONGEST_KEEPING; kept += AT_ONCE) {
      const pieces = Array.from({ length: Math.min(AT_ONCE, count - kept) }, (_, i) => (next + i) % count)
      await Promise.all(
        pieces.map(async piece => {
          const passes = tilePasses(film, tilesOfPiece(film.width, film.height, piece)[0]!, SUMS)
          await keepPiece(db, id, { piece, passes, bytes: await squeeze(packPiece(film, piece), EFFORT) })
        }),
      )
      next = (next + pieces.length) % count
    }
  }
}

/**
 * Pictures of a project by the name that documents give them; read before anything is built, because a database is
 * asked and not a disk.
 */
async function picturesOf(db: Knex, frame: FrameWork): Promise<Map<string, Picture>> {
  const names = new Set(JSON.stringify(frame.state).match(/asset:[0-9a-f]{64}/g))
  const all = new Map<string, Picture>()
  for (const name of names) {
    const asset = await getAsset(db, ASSET.exec(name)![1]!)
    if (asset && asset.type !== 'model/gltf-binary') all.set(name, readPicture(new Uint8Array(asset.bytes)))
  }
  return all
}

/**
 * Computes a frame that the caller holds, or as much of it as is wanted.
 * @throws Error with the reason for which it cannot be computed
 */
export async function computeFrame(db: Knex, frame: FrameWork, how: How): Promise<void> {
  const tiles = createTileFile()
  try {
    await computeWith(tiles, db, frame, how)
  } finally {
    tiles.close()
  }
}

async function computeWith(
  tiles: TileFile,
  db: Knex,
  frame: FrameWork,
  { threads, keep, mebibytes, hours, ended }: How,
): Promise<void> {
  const {
    settings: s,
    state: { scene, materials },
  } = frame
  const model = await getAsset(db, scene.model)
  const rig = scene.rigs.find(r => r.name === scene.lights)
  if (!model) throw new Error('The model is not in the database any more.')
  if (!rig) throw new Error(`There is no light rig ${scene.lights}.`)
  const pictures = await picturesOf(db, frame)
  const documents = new Map(Object.entries(materials))
  const world = buildWorld({
    scene,
    rig,
    model: await readGlb(new Uint8Array(model.bytes)),
    documents,
    bake: s.passes >= 16,
    allocate: shared,
    picture: (_, file) => pictures.get(file),
    room: { bytes: MAP_MEMORY * 2 ** 20, store: tiles },
    readerOf: () => tiles,
  })
  // what is looked at small is denoised, which asks for these
  const aov = frame.becomes ? DENOISED : s.aov
  const squares = frame.becomes !== null
  const needs = filmBytes(s.width, s.height, { aov, squares, lights: lightCount(world.lights) }) / 2 ** 20
  if (needs > mebibytes)
    throw new Error(
      `Its film needs ${Math.ceil(needs)} MiB; this worker gives one frame ${Math.floor(mebibytes)} ` +
        '(WAVELUME_FRAME_MEMORY).',
    )
  const keepPieces = createKeeper(db, frame.id)
  const before = frame.seconds
  let wanted = true
  let began = performance.now()
  let spent = 0
  const r = await renderOnThreads(world, s.camera, {
    width: s.width,
    height: s.height,
    from: 0,
    to: s.passes,
    seed: s.seed,
    threads,
    aov,
    squares,
    resume: film => takeBack(db, frame.id, film),
    async between(film, passes) {
      const now = performance.now()
      spent += (now - began) / 1000
      if (before + spent > hours * 3600)
        throw new Error(`It was computed for more than ${hours} hours (WAVELUME_FRAME_HOURS).`)
      await keepPieces(film)
      wanted = await keepProgress(db, frame.id, passes, before + spent)
      began = performance.now()
      // large sums are kept more seldom: keeping takes no more than a tenth of the time
      return wanted && !ended() ? Math.max(keep, (began - now) / 100) : undefined
    },
  })
  // stopped, or this worker ends: another goes on
  if (!wanted) await dropPieces(db, frame.id)
  else if (r.passes < s.passes) await leaveFrame(db, frame.id)
  if (!wanted || r.passes < s.passes) return
  const exrOf = () =>
    pictureFile(r.film, {
      documents: [...documents.values()],
      lights: lightNames(rig),
      seed: s.seed,
      passes: s.passes,
      says: `1-${s.passes}`,
      clamp: scene.clamp,
    })
  const rgb = frame.becomes ? denoised(r.film) : Float32Array.from(r.film.sum, x => x / s.passes)
  const exposure = frame.becomes?.exposure ?? 0
  const small = shrink(rgb, s.width, s.height, 240)
  const picture =
    frame.becomes?.kind === 'reference'
      ? await putAsset(db, developedPng(rgb, s.width, s.height, exposure), 'image/png', 'reference.png')
      : await putAsset(db, exrOf(), 'image/x-exr', `${frame.name}.exr`)
  const thumbnail = await putAsset(
    db,
    developedPng(small.rgb, small.width, small.height, exposure),
    'image/png',
    'frame.png',
  )
  await endFrame(db, frame.id, { status: 'done', picture, thumbnail, passes: s.passes, seconds: before + spent })
  if (frame.becomes) await keepStill(db, frame.id, frame.becomes)
  console.error(`${frame.name}: done after ${(before + spent).toFixed(1)} s`)
}

/** Keeps a finished frame among the proofs of its project, where it was asked for as one. */
async function keepStill(db: Knex, id: string, { kind, name }: Becomes): Promise<void> {
  const made = await frameAsProof(db, id)
  if (!made) return
  const settings = kind === 'proof' ? made.proof.settings : {}
  await keepProof(db, made.project, { ...made.proof, kind, name, settings })
  await removeFrame(db, id)
}
