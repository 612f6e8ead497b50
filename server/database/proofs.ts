import type { Knex } from 'knex'
import type { NewProof, ProjectState, Proof, ProofEdit } from '../../shared/api'

const fromRow = (r: Record<string, unknown> & { created: Date }): Proof => ({
  id: r.id as string,
  number: r.number as number,
  kind: r.kind as Proof['kind'],
  name: r.name as string,
  width: r.width as number,
  height: r.height as number,
  picture: r.picture as string,
  thumbnail: r.thumbnail as string | null,
  settings: r.settings as Proof['settings'],
  note: r.note as string,
  star: r.star as boolean,
  created: r.created.toISOString(),
})

/** Proofs of a project, the newest first, without the states that made them: see {@link proofState}. */
export async function listProofs(db: Knex, project: string): Promise<Proof[]> {
  const rows = await db('proofs')
    .where({ project })
    .orderBy('number', 'desc')
    .select('*', db.raw("settings::jsonb - 'state' as settings"))
  return rows.map(fromRow)
}

/** What made a proof. @returns undefined where there is no such proof, or nothing made it */
export const proofState = async (db: Knex, project: string, id: string): Promise<ProjectState | undefined> =>
  (await db('proofs').where({ project, id }).first(db.raw("settings -> 'state' as state")))?.state ?? undefined

/**
 * Keeps a proof under the project's next number.
 * @returns undefined when the project or its pictures do not exist
 */
export async function keepProof(db: Knex, project: string, proof: NewProof): Promise<Proof | undefined> {
  return db.transaction(async trx => {
    if (!(await trx('projects').where({ id: project }).forUpdate().first())) return undefined
    const newest = await trx('proofs').where({ project }).max('number as most').first()
    const [row] = await trx('proofs')
      .insert({
        ...proof,
        project,
        number: Number(newest?.most ?? 0) + 1,
        settings: JSON.stringify(proof.settings),
      })
      .returning('*')
    return fromRow(row)
  })
}

/** Changes what an artist says of a proof. @returns undefined when there is none */
export async function editProof(
  db: Knex,
  project: string,
  id: string,
  edit: ProofEdit,
): Promise<Proof | undefined> {
  const [row] = await db('proofs').where({ project, id }).update(edit).returning('*')
  return row && fromRow(row)
}

export async function removeProof(db: Knex, project: string, id: string): Promise<boolean> {
  return (await db('proofs').where({ project, id }).delete()) > 0
}
