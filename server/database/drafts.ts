import type { Knex } from 'knex'
import type { Draft, ProjectState } from '../../shared/api'

/**
 * Keeps unsaved work of a project; the newest draft replaces the one before.
 * @returns whether there is such a project
 */
export async function keepDraft(db: Knex, project: string, base: number, state: ProjectState): Promise<boolean> {
  const there = await db('projects').where({ id: project }).whereNull('deleted').first('id')
  if (!there) return false
  await db('drafts')
    .insert({ project, base, state: JSON.stringify(state), updated: db.fn.now() })
    .onConflict('project')
    .merge()
  return true
}

export async function readDraft(db: Knex, project: string): Promise<Draft | undefined> {
  const row = await db('drafts').where({ project }).first()
  return row && { base: row.base, state: row.state, updated: row.updated.toISOString() }
}

export async function removeDraft(db: Knex, project: string): Promise<void> {
  await db('drafts').where({ project }).delete()
}
