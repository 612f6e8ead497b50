/**
 * Saves as they happen, for whoever has the project open, whichever server they reach: told by the database once a
 * save is committed (LISTEN and NOTIFY).
 */
import { EventEmitter } from 'node:events'
import pg from 'pg'
import { z } from 'zod'
import { once } from './once'
import { SAVED } from './database/projects'

/** How long after the connection broke another is tried, ms. */
const AGAIN = 2000

const savedSchema = z.object({ project: z.string(), number: z.number() })

interface Saves {
  /** Listens to one project. @returns ends it */
  on(project: string, heard: (number: number) => void): () => void
  end(): Promise<void>
}

async function listen(url: string): Promise<Saves> {
  const heard = new EventEmitter().setMaxListeners(0)
  let ended = false
  let client: pg.Client | undefined
  async function connect(): Promise<void> {
    const c = new pg.Client({ connectionString: url, application_name: 'wavelume-saves' })
    c.on('error', () => c.end().catch(() => undefined))
    c.on('end', () => {
      if (!ended) setTimeout(() => void connect().catch(() => undefined), AGAIN).unref()
    })
    c.on('notification', ({ payload }) => {
      const saved = savedSchema.safeParse(JSON.parse(payload ?? 'null'))
      if (saved.success) heard.emit(saved.data.project, saved.data.number)
    })
    client = c
    await c.connect()
    await c.query(`listen ${SAVED}`)
  }
  try {
    await connect()
  } catch (e) {
    // whoever asks next begins anew
    ended = true
    throw e
  }
  return {
    on(project, f) {
      heard.on(project, f)
      return () => heard.off(project, f)
    },
    async end() {
      ended = true
      await client?.end()
    },
  }
}

const saves = once<Saves>(listen, s => s.end())
/** Begins to listen, once. @param url connection address of the database */
export const openSaves = saves.open
export const closeSaves = saves.close
