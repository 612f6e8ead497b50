import knex, { type Knex } from 'knex'
import { migrations } from './migrations'

let client: Promise<Knex> | undefined

/** Opens the database once, brings its tables up to date. @param url connection address, on loopback */
export function openDatabase(url: string): Promise<Knex> {
  client ??= (async () => {
    const db = knex({ client: 'pg', connection: url, pool: { min: 0, max: 8 }, acquireConnectionTimeout: 10_000 })
    await db.migrate.latest({ migrationSource: migrations })
    return db
  })()
  client.catch(() => { client = undefined })
  return client
}

export async function closeDatabase(): Promise<void> {
  const open = client
  client = undefined
  await (await open)?.destroy()
}
