import type { Knex } from 'knex'
import type { Project, ProjectState, ProjectSummary, SaveConflict, VersionSummary } from '../../shared/api'
import { hashOf } from './hash'

/** Channel on which saves are told, see `../saves.ts`. */
export const SAVED = 'wavelume_saved'

/** Writes a state's documents, shared between versions by their content. */
async function writeVersion(
  db: Knex,
  project: string,
  number: number,
  parent: number,
  state: ProjectState,
  note: string,
  aside: boolean,
  thumbnail: string | null = null,
): Promise<void> {
  const put = async (table: 'scenes' | 'materials', document: unknown) => {
    const text = JSON.stringify(document)
    const hash = hashOf(text)
    await db(table).insert({ hash, document: text }).onConflict('hash').ignore()
    return hash
  }
  await db('versions').insert({
    project,
    number,
    parent,
    scene: await put('scenes', state.scene),
    note,
    aside,
    thumbnail,
  })
  for (const [key, document] of Object.entries(state.materials))
    await db('version_materials').insert({ project, number, key, material: await put('materials', document) })
}

export async function createProject(db: Knex, name: string, state: ProjectState): Promise<Project> {
  return db.transaction(async trx => {
    const [row] = await trx('projects').insert({ name, head: 1 }).returning(['id'])
    await writeVersion(trx, row.id, 1, 0, state, '', false)
    return { id: row.id, name, head: 1, state }
  })
}

export async function listProjects(db: Knex): Promise<ProjectSummary[]> {
  const rows = await db('projects')
    .whereNull('deleted')
    .select('projects.*')
    .orderBy('updated', 'desc')
    .select(
      db('versions')
        .whereRaw('versions.project = projects.id')
        .whereNotNull('thumbnail')
        .where('aside', false)
        .orderBy('number', 'desc')
        .limit(1)
        .select('thumbnail')
        .as('saved'),
    )
    .select(
      db('proofs')
        .whereRaw('proofs.project = projects.id')
        .whereNotNull('thumbnail')
        .where('kind', 'proof')
        .orderBy('number', 'desc')
        .limit(1)
        .select('thumbnail')
        .as('thumbnail'),
    )
    // the still that a worker is to make of it
    .select(
      db('frames')
        .whereRaw('frames.project = projects.id')
        .whereRaw("becomes ->> 'kind' = 'proof'")
        .whereIn('status', ['queued', 'running'])
        .limit(1)
        .select(db.raw("json_build_object('passes', passes, 'of', (settings ->> 'passes')::integer)"))
        .as('still'),
    )
  return rows.map(r => ({
    id: r.id,
    name: r.name,
    head: r.head,
    created: r.created.toISOString(),
    updated: r.updated.toISOString(),
    thumbnail: r.saved ?? r.thumbnail,
    still: r.still,
  }))
}

/** Number of a project's newest version. @returns undefined when there is no such project */
export const readHead = async (db: Knex, id: string): Promise<number | undefined> =>
  (await db('projects').where({ id }).whereNull('deleted').first('head'))?.head as number | undefined

/** A project at its newest version, or at `number`. @returns undefined when there is none */
export async function readProject(db: Knex, id: string, number?: number): Promise<Project | undefined> {
  const project = await db('projects').where({ id }).whereNull('deleted').first()
  if (!project) return undefined
  const at = number ?? project.head
  const version = await db('versions').where({ project: id, number: at }).first()
  if (!version) return undefined
  const scene = await db('scenes').where({ hash: version.scene }).first()
  const materials = await db('version_materials')
    .join('materials', 'materials.hash', 'version_materials.material')
    .where({ project: id, number: at })
    .orderBy('key')
    .select('key', 'document')
  return {
    id,
    name: project.name,
    head: project.head,
    state: { scene: scene.document, materials: Object.fromEntries(materials.map(m => [m.key, m.document])) },
  }
}

/**
 * Saves a version on top of `base`. When somebody has saved since, the save is kept beside the line of versions
 * and reported as a conflict.
 */
export async function saveVersion(
  db: Knex,
  id: string,
  base: number,
  state: ProjectState,
  note: string,
  thumbnail: string | null = null,
): Promise<{ number: number } | { conflict: SaveConflict } | undefined> {
  return db.transaction(async trx => {
    const project = await trx('projects').where({ id }).whereNull('deleted').forUpdate().first()
    if (!project) return undefined
    const newest = await trx('versions').where({ project: id }).max('number as most').first()
    const number = Number(newest?.most ?? 0) + 1
    const stale = base !== project.head
    await writeVersion(trx, id, number, base, state, note, stale, thumbnail)
    if (stale) return { conflict: { head: project.head, kept: number } }
    await trx('projects').where({ id }).update({ head: number, updated: trx.fn.now() })
    await trx.raw('select pg_notify(?, ?)', [SAVED, JSON.stringify({ project: id, number })])
    return { number }
  })
}

export async function listVersions(db: Knex, id: string): Promise<VersionSummary[]> {
  const rows = await db('versions').where({ project: id }).orderBy('number', 'desc')
  return rows.map(r => ({
    number: r.number,
    parent: r.parent,
    note: r.note,
    aside: r.aside,
    thumbnail: r.thumbnail,
    created: r.created.toISOString(),
  }))
}

/** Gives a project another name. @returns whether there is such a project */
export async function renameProject(db: Knex, id: string, name: string): Promise<boolean> {
  return (await db('projects').where({ id }).whereNull('deleted').update({ name })) > 0
}

/** Makes a new project of the newest version of another. */
export async function copyProject(db: Knex, id: string): Promise<Project | undefined> {
  const from = await readProject(db, id)
  return from && createProject(db, `${from.name} copy`.slice(0, 120), from.state)
}

/**
 * Deletes a project, or brings it back; nothing of it is lost in between.
 * @returns whether there is such a project
 */
export async function setDeleted(db: Knex, id: string, deleted: boolean): Promise<boolean> {
  return (
    (await db('projects')
      .where({ id })
      .update({ deleted: deleted ? db.fn.now() : null })) > 0
  )
}
