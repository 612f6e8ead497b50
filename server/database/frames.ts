/** Frames: pictures of full quality, asked for on the bench and computed by workers of their own. */
import type { Knex } from 'knex'
import type { Frame, FrameList, NewFrame, NewProof, ProjectState } from '../../shared/api'

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

/**
 * Keeps what a frame is to show.
 * @param becomes nothing for a frame that stays one
 * @returns its id; undefined when there is no such project
 */
export async function addFrame(
  db: Knex,
  project: string,
  frame: NewFrame,
  becomes: Becomes | null = null,
): Promise<string | undefined> {
  if (!(await db('projects').where({ id: project }).whereNull('deleted').first('id'))) return undefined
  const [row] = await db('frames')
    .insert({
      project,
      name: frame.name,
      settings: JSON.stringify(frame.settings),
      state: JSON.stringify(frame.state),
      becomes: becomes && JSON.stringify(becomes),
    })
    .returning('id')
  return row.id
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
  if (stopped) await db('frame_sums').where({ frame: id }).delete()
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

export interface FrameWork {
  id: string
  name: string
  settings: NewFrame['settings']
  state: ProjectState
  status: Frame['status']
  seconds: number
  becomes: Becomes | null
}
export const frameToCompute = (db: Knex, id: string): Promise<FrameWork | undefined> =>
  db('frames').where({ id }).first('id', 'name', 'settings', 'state', 'status', 'seconds', 'becomes')

/** What earlier passes summed up. */
export const sumsOf = async (db: Knex, id: string): Promise<{ passes: number; sums: Uint8Array } | undefined> => {
  const row = await db('frame_sums').where({ frame: id }).first('passes', 'bytes')
  return row && { passes: row.passes, sums: new Uint8Array(row.bytes) }
}

/** Keeps the sums after some passes, both or neither. @returns whether the frame is still wanted */
export async function keepSums(
  db: Knex,
  id: string,
  passes: number,
  sums: Uint8Array,
  seconds: number,
): Promise<boolean> {
  return db.transaction(async trx => {
    if (!(await trx('frames').where({ id, status: 'running' }).update({ passes, seconds, updated: trx.fn.now() })))
      return false
    await trx('frame_sums')
      .insert({ frame: id, passes, bytes: Buffer.from(sums.buffer, sums.byteOffset, sums.length) })
      .onConflict('frame')
      .merge()
    return true
  })
}

export async function endFrame(
  db: Knex,
  id: string,
  end:
    | { status: 'done'; picture: string; thumbnail: string; passes: number; seconds: number }
    | { status: 'failed'; message: string },
): Promise<void> {
  await db.transaction(async trx => {
    await trx('frames')
      .where({ id, status: 'running' })
      .update({ ...end, updated: trx.fn.now() })
    await trx('frame_sums').where({ frame: id }).delete()
  })
}
