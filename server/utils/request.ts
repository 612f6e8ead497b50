import type { H3Event } from 'h3'
import type { Knex } from 'knex'
import { z } from 'zod'
import type PgBoss from 'pg-boss'
import { tabSchema } from '../../shared/api'
import { openDatabase } from '../database/client'
import { openQueue } from '../jobs/queue'
import { shapeFault } from '../shape'
import { bytesOf } from './bytes'

/** Where the database of the running server is. @throws Error when nobody has said */
export function databaseUrl(): string {
  const url = process.env.WAVELUME_DATABASE
  if (!url) throw new Error('WAVELUME_DATABASE does not say where the database is.')
  return url
}

/** The database of the running server. */
export const useDatabase = (): Promise<Knex> => openDatabase(databaseUrl())

/** The queue of frames of the running server. */
export const useQueue = (): Promise<PgBoss> => openQueue(databaseUrl())

/** Reads and checks a JSON body. Failing checks say which field and why. */
export async function bodyOf<T extends z.ZodType>(event: H3Event, schema: T): Promise<z.output<T>> {
  const bytes = await bytesOf(event, 64 * 1024 * 1024, 'The document is larger than 64 MiB.')
  let body: unknown
  try {
    body = JSON.parse(bytes.toString('utf8'))
  } catch {
    throw createError({ statusCode: 400, message: 'This cannot be kept: body: not JSON' })
  }
  const fault = shapeFault(body)
  if (fault) throw createError({ statusCode: 400, message: `This cannot be kept: ${fault}` })
  const checked = schema.safeParse(body)
  if (!checked.success) {
    const first = checked.error.issues
      .slice(0, 3)
      .map(i => `${i.path.join('.') || 'body'}: ${i.message}`)
      .join('; ')
    throw createError({ statusCode: 400, message: `This cannot be kept: ${first}` })
  }
  return checked.data
}

/** An id in the path. @throws 404 in words where it is none */
function pathId(event: H3Event, name: string, says: string): string {
  const checked = z.uuid().safeParse(getRouterParam(event, name))
  if (!checked.success) throw createError({ statusCode: 404, message: says })
  return checked.data
}
export const projectId = (event: H3Event): string => pathId(event, 'id', 'There is no such project.')
export const NO_DRAFT = 'There is no such draft.'
/** The tab that a draft is of. @throws 404 in words where it is none */
export function tabId(event: H3Event): string {
  const checked = tabSchema.safeParse(getRouterParam(event, 'tab'))
  if (!checked.success) throw createError({ statusCode: 404, message: NO_DRAFT })
  return checked.data
}
export const NO_PROOF = 'There is no such proof.'
export const proofId = (event: H3Event): string => pathId(event, 'proof', NO_PROOF)
export const NO_FRAME = 'There is no such frame.'
export const frameId = (event: H3Event): string => pathId(event, 'frame', NO_FRAME)
