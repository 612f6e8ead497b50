import knex, { type Knex } from 'knex'
import { once } from '../once'
import { migrations } from './migrations'
import { grantTables } from './worker-grants'

const connect = (url: string): Knex =>
  knex({ client: 'pg', connection: url, pool: { min: 0, max: 8 }, acquireConnectionTimeout: 10_000 })

const client = once<Knex>(
  async url => {
    const db = connect(url)
    await db.migrate.latest({ migrationSource: migrations })
    await grantTables(db)
    return db
  },
  db => db.destroy(),
)

/** Opens the database once, brings its tables up to date. @param url connection address, on loopback */
export const openDatabase = client.open
export const closeDatabase = client.close

/**
 * Connects to a database whose tables are up to date already, as workers do, who may not change them.
 * @throws Error when its tables are of another version
 */
export async function connectDatabase(url: string): Promise<Knex> {
  const db = connect(url)
  const done = (await db('knex_migrations').pluck('name')) as string[]
  const known = (await migrations.getMigrations()).map(migrations.getMigrationName)
  if (done.length === known.length && known.every(n => done.includes(n))) return db
  await db.destroy()
  throw new Error('The tables of the database are of another version than this worker. Start its server first.')
}
