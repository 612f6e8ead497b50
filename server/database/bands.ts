/** Bands of frames, as workers take them up: see `core/render/bands.ts`. */
import type { Knex } from 'knex'
import type { NewFrame, ProjectState } from '../../shared/api'
import type { Becomes } from './frames'
import { FRAMES, QUEUE_SCHEMA } from './queue-name'

/** A share of a frame, to be computed; or {@link FINISH}, the making of its picture. */
export interface FrameWork {
  id: string
  name: string
  settings: NewFrame['settings']
  state: ProjectState
  becomes: Becomes | null
  bands: number
  band: number
  /** Seconds that its passes took so far. */
  seconds: number
}
/** Number of the band that stands for making the picture once all others have their passes. */
export const FINISH = -1

/** How often a band is taken up before anything of it can be kept; after that its frame is set aside. */
const ATTEMPTS = 2

/**
 * Takes up a band that is queued, or whose worker has left it. The caller holds its lock.
 * @returns the work; undefined when there is none, or the frame was set aside now because workers ended over it
 */
export async function takeUpBand(db: Knex, id: string, band: number): Promise<FrameWork | undefined> {
  return db.transaction(async trx => {
    const frame = await trx('frames')
      .where({ id })
      .whereIn('status', ['queued', 'running'])
      .first('id', 'name', 'settings', 'state', 'becomes', 'bands')
    const share = await trx('frame_bands').where({ frame: id, band }).first()
    if (!frame || !share || (band !== FINISH && share.passes >= frame.settings.passes)) return undefined
    if (share.attempts >= ATTEMPTS) {
      const message =
        `${ATTEMPTS} workers ended over it before anything could be kept. ` +
        'It may need more memory than they have.'
      await trx('frames').where({ id }).update({ status: 'failed', message, updated: trx.fn.now() })
      await trx('frame_pieces').where({ frame: id }).delete()
      return undefined
    }
    await trx('frame_bands')
      .where({ frame: id, band })
      .update({ taken: true, attempts: trx.raw('attempts + 1') })
    await trx('frames').where({ id, status: 'queued' }).update({ status: 'running', updated: trx.fn.now() })
    return { ...frame, band, seconds: share.seconds }
  })
}

/** A worker leaves a band of its own will: that is no failure of the frame's. */
export const leaveBand = (db: Knex, frame: string, band: number): Promise<unknown> =>
  db('frame_bands').where({ frame, band }).update({ attempts: 0 })

/** Most shares that are looked at in one go. */
const LOOKED_AT = 100

/** Bands, as `b`, that have not all their passes, with their frames as `f`. */
const unfinished = (db: Knex) =>
  db('frame_bands as b')
    .join('frames as f', 'f.id', 'b.frame')
    .where('b.band', '>', FINISH)
    .whereRaw("b.passes < (f.settings ->> 'passes')::integer")

/** Whether all bands of a frame have their passes, and its picture can be made. */
export const isComplete = async (db: Knex, id: string): Promise<boolean> =>
  (await unfinished(db).where('b.frame', id).first('b.band')) === undefined

/** A share of a frame by its numbers. */
export interface Share {
  frame: string
  band: number
}
/** Shares of frames under way, in the order in which those were asked for. */
const inOrder = (query: ReturnType<typeof unfinished>): Promise<Share[]> =>
  query
    .whereIn('f.status', ['queued', 'running'])
    .orderBy(['f.created', 'b.band'])
    .limit(LOOKED_AT)
    .select('b.frame', 'b.band')

/** A worker has taken a band's job: from then on whoever finds nobody at it may do it. */
export const takeBand = (db: Knex, frame: string, band: number): Promise<unknown> =>
  db('frame_bands').where({ frame, band }).update({ taken: true })

/**
 * Bands that somebody has begun and may have left, and pictures that can be made: whoever holds none of their locks may
 * take them up.
 */
export async function bandsToLookAt(db: Knex): Promise<Share[]> {
  const left = await inOrder(unfinished(db).where('b.taken', true))
  const whole = await db('frames as g')
    .where('g.status', 'running')
    .whereNotExists(unfinished(db).whereRaw('b.frame = g.id').select('b.band'))
    .orderBy('g.created')
    .limit(LOOKED_AT)
    .pluck('g.id')
  return [...left, ...whole.map((frame: string) => ({ frame, band: FINISH }))]
}

/** Bands that wait without a job: the queue has lost them, or a frame was brought back without it. */
export const bandsWithoutJob = (db: Knex): Promise<Share[]> =>
  inOrder(
    unfinished(db)
      .where('b.taken', false)
      .whereRaw("f.created < now() - interval '30 seconds'")
      .whereRaw(
        `not exists (select 1 from ${QUEUE_SCHEMA}.job j where j.name = ? and j.state in ('created', 'retry') and ` +
          "j.data ->> 'id' = b.frame::text and (j.data ->> 'band')::integer = b.band)",
        [FRAMES],
      ),
  )

/** A part of a frame's sums, compressed: see `core/render/film-pieces.ts`. */
export interface FramePiece {
  piece: number
  passes: number
  bytes: Uint8Array
}

/** What earlier passes summed up, one piece after the other. @param pieces numbers of those that are wanted */
export async function* piecesOf(db: Knex, id: string, pieces: readonly number[]): AsyncGenerator<FramePiece> {
  for (const piece of pieces) {
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

/** Says how far a band is. @returns whether its frame is still wanted */
export async function keepProgress(
  db: Knex,
  frame: string,
  band: number,
  passes: number,
  seconds: number,
): Promise<boolean> {
  await db('frame_bands')
    .where({ frame, band })
    .whereExists(db('frames').where({ id: frame, status: 'running' }))
    .update({ passes, seconds, attempts: 0 })
  const { rows } = await db.raw<{ rows: unknown[] }>(
    'update frames set updated = now(), passes = s.passes, seconds = s.seconds from (select ' +
      'floor(avg(passes))::integer as passes, sum(seconds)::real as seconds from frame_bands ' +
      "where frame = ? and band > ?) s where id = ? and status = 'running' returning id",
    [frame, FINISH, frame],
  )
  return rows.length > 0
}

/** Lets go of the sums of a frame that nobody computes any more. */
export const dropPieces = (db: Knex, id: string): Promise<unknown> =>
  db('frame_pieces').where({ frame: id }).delete()

/** What became of a frame; its sums are not needed any more. */
export async function endFrame(
  db: Knex,
  id: string,
  end:
    { status: 'done'; picture: string; thumbnail: string; passes: number } | { status: 'failed'; message: string },
): Promise<void> {
  await db.transaction(async trx => {
    await trx('frames')
      .where({ id, status: 'running' })
      .update({ ...end, updated: trx.fn.now() })
    await trx('frame_pieces').where({ frame: id }).delete()
  })
}
