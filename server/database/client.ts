import knex, { type Knex } from 'knex'
import { once } from '../once'
import { migrations } from './migrations'

const client = once<Knex>(
  async url => {
    const db = knex({ client: 'pg', connection: url, pool: { min: 0, max: 8 }, acquireConnectionTimeout: 10_000 })
    await db.migrate.latest({ migrationSource: migrations })
    return db
  },
  db => db.destroy(),
)

/** Opens the database once, brings its tables up to date. @param url connection address, on loopback */
export const openDatabase = client.open
export const closeDatabase = client.close
