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
 * Keeps what a frame is to show, and puts it into the queue: both or neither.
 * @param queued puts its id into the queue on the same transaction
 * @param becomes nothing for a frame that stays one
 * @returns its id; undefined when there is no such project
 */
export async function addFrame(
  db: Knex,
  project: string,
  frame: NewFrame,
  queued: (trx: Knex.Transaction, id: string) => Promise<unknown>,
  becomes: Becomes | null = null,
): Promise<string | undefined> {
  return db.transaction(async trx => {
    if (!(await trx('projects').where({ id: project }).whereNull('deleted').first('id'))) return undefined
    const [row] = await trx('frames')
      .insert({
        project,
        name: frame.name,
        settings: JSON.stringify(frame.settings),
        state: JSON.stringify(frame.state),
        becomes: becomes && JSON.stringify(becomes),
      })
      .returning('id')
    await queued(trx, row.id)
    return row.id as string
  })
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

export interface FrameWork {
  id: string
  name: string
  settings: NewFrame['settings']
  state: ProjectState
  status: Frame['status']
  seconds: number
  becomes: Becomes | null
}
/** How often a frame is taken up before anything of it can be kept; after that it is set aside. */
const ATTEMPTS = 2

/**
 * Takes up a frame that is queued, or whose worker has left it. The caller holds its lock.
 * @returns the frame; undefined when it is not to be computed, or was set aside now because workers ended over it
 */
export async function takeUpFrame(db: Knex, id: string): Promise<FrameWork | undefined> {
  const wanted = () => db('frames').where({ id }).whereIn('status', ['queued', 'running'])
  const aside = await wanted()
    .where('attempts', '>=', ATTEMPTS)
    .update({
      status: 'failed',
      message:
        `${ATTEMPTS} workers ended over it before anything could be kept. ` +
        'It may need more memory than they have.',
      updated: db.fn.now(),
    })
  if (aside) {
    await db('frame_pieces').where({ frame: id }).delete()
    return undefined
  }
  const [frame] = await wanted()
    .update({ status: 'running', attempts: db.raw('attempts + 1'), updated: db.fn.now() })
    .returning(['id', 'name', 'settings', 'state', 'status', 'seconds', 'becomes'])
  return frame as FrameWork | undefined
}

/** A worker leaves a frame of its own will: that is no failure of the frame's. */
export const leaveFrame = (db: Knex, id: string): Promise<unknown> =>
  db('frames').where({ id, status: 'running' }).update({ attempts: 0 })

/** A part of a frame's sums, compressed: see `core/render/film-pieces.ts`. */
export interface FramePiece {
  piece: number
  passes: number
  bytes: Uint8Array
}

/** What earlier passes summed up, one piece after the other. */
export async function* piecesOf(db: Knex, id: string): AsyncGenerator<FramePiece> {
  const known = await db('frame_pieces').where({ frame: id }).orderBy('piece').select('piece')
  for (const { piece } of known) {
    const row = await db('frame_pieces').where({ frame: id, piece }).first('passes', 'bytes')
    if (row) yield { piece, passes: row.passes, bytes: new Uint8Array(row.bytes) }
  }
}

/** Keeps a piece, whole or not at all. */
export const keepPiece = (db: Knex, id: string, { piece, passes, bytes }: FramePiece): Promise<unknown> =>
  db('frame_pieces')
    .insert({ frame: id, piece, passes, bytes: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length) })
    .onConflict(['frame', 'piece'])
    .merge()

/** Says how far a frame is. @returns whether it is still wanted */
export const keepProgress = async (db: Knex, id: string, passes: number, seconds: number): Promise<boolean> =>
  (await db('frames')
    .where({ id, status: 'running' })
    .update({ passes, seconds, attempts: 0, updated: db.fn.now() })) > 0

/** Lets go of the sums of a frame that nobody computes any more. */
export const dropPieces = (db: Knex, id: string): Promise<unknown> =>
  db('frame_pieces').where({ frame: id }).delete()

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
    await trx('frame_pieces').where({ frame: id }).delete()
  })
}
