/**
 * `wavelume worker`: computes frames from the queue, one after the other, each on all threads it was given.
 *
 * After every few seconds the sums go to the database between two passes. A worker that is killed leaves its frame
 * to the next: who renders a frame holds a lock that the database lets go of with the connection, so a frame that
 * is running without a holder has been left. Passes are sums in order, so the picture is the same bit for bit,
 * however often that happens.
 */
import { availableParallelism, hostname, setPriority } from 'node:os'
import pg from 'pg'
import { MAP_MEMORY } from '../core/maps/plan'
import { readGlb } from '../core/formats/models/glb'
import type { Picture } from '../core/formats/pictures/picture'
import { readPicture } from '../core/formats/pictures'
import { lightNames } from '../core/light/create-lights'
import { ASSET } from '../core/network/asset'
import { packSums } from '../core/render/film'
import { shrink } from '../core/render/shrink'
import { buildWorld } from '../core/world/build-world'
import { getAsset, putAsset } from '../server/database/assets'
import { closeDatabase, openDatabase } from '../server/database/client'
import {
  endFrame,
  frameAsProof,
  frameToCompute,
  keepSums,
  removeFrame,
  sumsOf,
  type Becomes,
  type FrameWork,
} from '../server/database/frames'
import { keepProof } from '../server/database/proofs'
import { closeQueue, FRAMES, openQueue } from '../server/jobs/queue'
import type { Knex } from 'knex'
import { InputError, type Options } from './options'
import { denoised } from './denoised'
import { developedPng, pictureFile } from './picture-file'
import { createTileFile, type TileFile } from './tile-file'
import { renderOnThreads } from './pool'

/**
 * Seconds between two keepings of the sums at least, between two looks for frames that were left, and between two
 * signs of life.
 */
const KEEP = 4
const LOOK = 5
const SIGN = 10
/** What the denoiser asks of a film. */
const DENOISED = ['albedo', 'normal'] as const
const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

export async function worker(o: Options): Promise<unknown> {
  const url = process.env.WAVELUME_DATABASE
  if (!url)
    throw new InputError('worker needs the address of the database in WAVELUME_DATABASE; ./wavelume demo says it')
  const threads = o.number('threads', Math.max(1, availableParallelism() - 1), 1, 64)
  const once = o.has('once')
  const keep = o.number('keep', KEEP, 0, 3600)
  // whoever sits before this machine comes first
  setPriority(10)
  const db = await openDatabase(url)
  const locks = new pg.Client({ connectionString: url })
  await locks.connect()
  let ended = false
  let working: Promise<void> = Promise.resolve()
  let free = () => {}
  // without its locks this worker cannot know that it is the only one at a frame
  locks.on('error', e => {
    console.error(`the database is gone: ${e.message}`)
    process.exit(1)
  })
  const name = `${hostname()}:${process.pid}`
  const sign = () =>
    db('frame_workers')
      .insert({ name, seen: db.fn.now() })
      .onConflict('name')
      .merge()
      .catch(() => undefined)
  await sign()
  const compute = (id: string): Promise<void> =>
    (working = working.then(() =>
      ended ? undefined : computeLocked(db, locks, id, { threads, keep, ended: () => ended }),
    ))
  const queue = await openQueue(url)
  const lookForLeft = async () => {
    for (const { id } of await db('frames').where({ status: 'running' }).orderBy('created').select('id'))
      await compute(id)
  }
  const timers = [
    setInterval(() => void sign(), SIGN * 1000),
    setInterval(() => void lookForLeft().catch(e => console.error(e.message)), LOOK * 1000),
  ]
  const stop = () => {
    ended = true
    free()
  }
  process.once('SIGTERM', stop)
  process.once('SIGINT', stop)
  console.error(`worker ${name} takes frames on ${threads} thread${threads === 1 ? '' : 's'}`)
  await lookForLeft()
  await queue.work<{ id: string }>(FRAMES, { pollingIntervalSeconds: 1, batchSize: 1 }, async ([job]) => {
    await compute(job!.data.id)
    if (once) stop()
  })
  await new Promise<void>(resolve => {
    free = resolve
    if (ended) resolve()
  })
  timers.forEach(clearInterval)
  await working
  await db('frame_workers').where({ name }).delete()
  await closeQueue()
  await locks.end()
  await closeDatabase()
  return { stopped: true }
}

/** Threads, least seconds between two keepings, and whether this worker is to end. */
interface How {
  threads: number
  keep: number
  ended(): boolean
}

/** Computes a frame unless somebody else does or it is not wanted any more. */
async function computeLocked(db: Knex, locks: pg.Client, id: string, how: How): Promise<void> {
  const held = await locks.query<{ got: boolean }>('select pg_try_advisory_lock(hashtextextended($1, 0)) as got', [
    id,
  ])
  if (!held.rows[0]?.got) return
  try {
    const frame = await frameToCompute(db, id)
    if (!frame || (frame.status !== 'queued' && frame.status !== 'running')) return
    if (
      frame.status === 'queued' &&
      !(await db('frames').where({ id, status: 'queued' }).update({ status: 'running' }))
    )
      return
    console.error(`${frame.name}: ${frame.status === 'running' ? 'goes on' : 'begins'}`)
    await computeFrame(db, frame, how)
  } catch (e) {
    const message = e instanceof Error ? e.message : String(e)
    console.error(`frame ${id}: ${message}`)
    await endFrame(db, id, { status: 'failed', message: message.slice(0, 500) })
  } finally {
    await locks.query('select pg_advisory_unlock(hashtextextended($1, 0))', [id])
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

async function computeFrame(db: Knex, frame: FrameWork, how: How): Promise<void> {
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
  { threads, keep, ended }: How,
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
    // what is looked at small is denoised, which asks for these
    aov: frame.becomes ? DENOISED : s.aov,
    squares: frame.becomes !== null,
    resume: await sumsOf(db, frame.id),
    async between(film, passes) {
      const now = performance.now()
      spent += (now - began) / 1000
      wanted = await keepSums(db, frame.id, passes, packSums(film), before + spent)
      began = performance.now()
      // large sums are kept more seldom: keeping takes no more than a tenth of the time
      return wanted && !ended() ? Math.max(keep, (began - now) / 100) : undefined
    },
  })
  // stopped, or this worker ends: another goes on
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
