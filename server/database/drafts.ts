import type { Knex } from 'knex'
import type { Draft, DraftSummary, NewDraft } from '../../shared/api'

/** Most drafts of a project: beyond them the oldest go. */
const MOST = 50

/**
 * Keeps unsaved work of a project, in place of what the same tab kept before.
 * @returns whether there is such a project
 */
export async function keepDraft(
  db: Knex,
  project: string,
  tab: string,
  { person, base, state }: NewDraft,
): Promise<boolean> {
  const there = await db('projects').where({ id: project }).whereNull('deleted').first('id')
  if (!there) return false
  await db('drafts')
    .insert({ project, tab, person, base, state: JSON.stringify(state), updated: db.fn.now() })
    .onConflict(['project', 'tab'])
    .merge()
  const beyond = db('drafts').where({ project }).orderBy('updated', 'desc').offset(MOST).select('tab')
  await db('drafts').where({ project }).whereIn('tab', beyond).delete()
  return true
}

const summary = (r: { tab: string; person: string; base: number; updated: Date }): DraftSummary => ({
  tab: r.tab,
  person: r.person,
  base: r.base,
  updated: r.updated.toISOString(),
})

/** Drafts of a project, the newest first. */
export const listDrafts = async (db: Knex, project: string): Promise<DraftSummary[]> =>
  (
    await db('drafts').where({ project }).orderBy('updated', 'desc').select('tab', 'person', 'base', 'updated')
  ).map(summary)

export async function readDraft(db: Knex, project: string, tab: string): Promise<Draft | undefined> {
  const row = await db('drafts').where({ project, tab }).first()
  return row && { ...summary(row), state: row.state }
}

export async function removeDraft(db: Knex, project: string, tab: string): Promise<void> {
  await db('drafts').where({ project, tab }).delete()
}
