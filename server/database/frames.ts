/** Frames: pictures of full quality, asked for on the bench and computed by workers of their own. */
import type { Knex } from 'knex'
import { bandCount } from '../../core/render/bands'
import type { Frame, FrameList, NewFrame, NewProof, ProjectState } from '../../shared/api'
import { FINISH } from './bands'

/** How long after its last sign a worker counts as gone, seconds. */
const GONE = 30

export async function listFrames(db: Knex): Promise<FrameList> {
  const rows = await db('frames')
    .join('projects', 'projects.id', 'frames.project')
    .whereNull('projects.deleted')
    .orderBy('frames.created', 'desc')
    .limit(200)
    .select(
      'frames.id',
      'frames.project',
      'projects.name as projectName',
      'frames.name',
      'frames.settings',
      db.raw("frames.state #>> '{scene,lights}' as lights"),
      'frames.status',
      'frames.passes',
      'frames.message',
      'frames.seconds',
      'frames.picture',
      'frames.thumbnail',
      'frames.created',
    )
  const workers = await db('frame_workers')
    .where('seen', '>', db.raw(`now() - interval '${GONE} seconds'`))
    .count('* as n')
    .first()
  return {
    frames: rows.map(r => ({ ...r, created: r.created.toISOString() }) as Frame),
    workers: Number(workers?.n ?? 0),
  }
}

/** What a finished frame is kept as among the proofs of its project, instead of as a frame. */
export interface Becomes {
  kind: 'proof' | 'reference'
  name: string
  /** How much brighter a reference is, EV. */
  exposure: number
}

/** Frames of a project that begin, and how many bands each has. */
export interface NewShares {
  project: string
  frames: { id: string; bands: number }[]
}
/** Puts them into the queue on a transaction. */
type Queued = (trx: Knex.Transaction, shares: NewShares) => Promise<unknown>

/** Paths that a band has, where the environment says so. */
const worth = (): number | undefined => Number(process.env.WAVELUME_BAND_PATHS) || undefined

/**
 * Keeps what frames are to show, and puts them into the queue: all or none.
 * @param becomes nothing for frames that stay some
 * @returns their ids; undefined when there is no such project
 */
export async function addFrames(
  db: Knex,
  project: string,
  frames: readonly NewFrame[],
  queued: Queued,
  becomes: Becomes | null = null,
): Promise<string[] | undefined> {
  return db.transaction(async trx => {
    if (!(await trx('projects').where({ id: project }).whereNull('deleted').first('id'))) return undefined
    const shares: NewShares = { project, frames: [] }
    for (const frame of frames) {
      const { width, height, passes } = frame.settings
      const bands = bandCount(width, height, passes, worth())
      const [row] = await trx('frames')
        .insert({
          project,
          bands,
          name: frame.name,
          settings: JSON.stringify(frame.settings),
          state: JSON.stringify(frame.state),
          becomes: becomes && JSON.stringify(becomes),
        })
        .returning('id')
      const id = row.id as string
      const numbers = [FINISH, ...Array.from({ length: bands }, (_, b) => b)]
      await trx('frame_bands').insert(numbers.map(band => ({ frame: id, band })))
      shares.frames.push({ id, bands })
    }
    await queued(trx, shares)
    return shares.frames.map(f => f.id)
  })
}

/**
 * Begins a frame anew that failed or was stopped.
 * @returns whether there is such a frame
 */
export async function retryFrame(db: Knex, id: string, queued: Queued): Promise<boolean> {
  return db.transaction(async trx => {
    const [row] = await trx('frames')
      .where({ id })
      .whereIn('status', ['failed', 'stopped'])
      .update({
        status: 'queued',
        message: '',
        passes: 0,
        seconds: 0,
        created: trx.fn.now(),
        updated: trx.fn.now(),
      })
      .returning(['project', 'bands'])
    if (!row) return false
    await trx('frame_pieces').where({ frame: id }).delete()
    await trx('frame_bands').where({ frame: id }).update({ passes: 0, seconds: 0, taken: false, attempts: 0 })
    await queued(trx, { project: row.project, frames: [{ id, bands: row.bands }] })
    return true
  })
}

/** Stops all frames that are not finished. @returns how many */
export async function stopAllFrames(db: Knex): Promise<number> {
  const stopped = (await db('frames')
    .whereIn('status', ['queued', 'running'])
    .whereNull('becomes')
    .update({ status: 'stopped', updated: db.fn.now() })
    .returning('id')) as { id: string }[]
  await db('frame_pieces')
    .whereIn(
      'frame',
      stopped.map(f => f.id),
    )
    .delete()
  return stopped.length
}

/**
 * Stops a frame that is not finished: its worker leaves it after the pass under way.
 * @returns whether there was anything to stop
 */
export async function stopFrame(db: Knex, id: string): Promise<boolean> {
  const stopped = await db('frames')
    .where({ id })
    .whereIn('status', ['queued', 'running'])
    .update({ status: 'stopped', updated: db.fn.now() })
  if (stopped) await db('frame_pieces').where({ frame: id }).delete()
  return stopped > 0
}

export const removeFrame = async (db: Knex, id: string): Promise<boolean> =>
  (await db('frames').where({ id }).delete()) > 0

/**
 * What a finished frame is as a proof of its project: the picture with all that made it, so that it can be
 * restored.
 */
export async function frameAsProof(
  db: Knex,
  id: string,
): Promise<{ project: string; proof: NewProof } | undefined> {
  const f = await db('frames').where({ id, status: 'done' }).first()
  if (!f) return undefined
  const { width, height, passes, camera } = f.settings as NewFrame['settings']
  const state = f.state as ProjectState
  return {
    project: f.project,
    proof: {
      kind: 'proof',
      name: f.name,
      width,
      height,
      picture: f.picture,
      thumbnail: f.thumbnail,
      settings: { passes, exposure: 0, lights: state.scene.lights, camera, state },
    },
  }
}
