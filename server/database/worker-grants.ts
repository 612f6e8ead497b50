/**
 * What workers of frames may do, as the role `wavelume_worker`: read what a frame shows, write its sums and pictures,
 * keep it as a proof, and take jobs. They change no document of anybody's, and delete nothing but their own work.
 */
import type { Knex } from 'knex'

const ROLE = 'wavelume_worker'
/** Rights by table. A proof is numbered under a lock on its project, for which a right to change is asked. */
const GRANTS = {
  assets: 'select, insert',
  frames: 'select, update, delete',
  frame_bands: 'select, update, delete',
  frame_pieces: 'select, insert, update, delete',
  frame_workers: 'select, insert, update, delete',
  proofs: 'select, insert',
  projects: 'select, update (updated)',
  knex_migrations: 'select',
} as const

/** Whether there is a role for workers; a database that was set up otherwise may have none. */
const hasRole = async (db: Knex): Promise<boolean> =>
  (await db('pg_roles').where({ rolname: ROLE }).first('rolname')) !== undefined

/** Gives workers their rights on the tables. */
export async function grantTables(db: Knex): Promise<void> {
  if (!(await hasRole(db))) return
  for (const [name, rights] of Object.entries(GRANTS)) await db.raw(`grant ${rights} on ?? to ??`, [name, ROLE])
}

/** Gives workers their rights on a schema of the queue. */
export async function grantQueue(db: Knex, schema: string): Promise<void> {
  if (!(await hasRole(db))) return
  await db.raw('grant usage on schema ?? to ??', [schema, ROLE])
  await db.raw('grant select, insert, update, delete on all tables in schema ?? to ??', [schema, ROLE])
}
