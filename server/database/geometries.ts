import type { Knex } from 'knex'

/** Keeps the built geometry of a model, all parts shown. @param version of the pack's layout */
export async function putGeometry(db: Knex, model: string, version: number, bytes: Uint8Array): Promise<void> {
  await db('geometries')
    .insert({ model, version, bytes: Buffer.from(bytes) })
    .onConflict(['model', 'version'])
    .merge()
}

/** Built geometry of a model, if there is one of this layout. */
export async function getGeometry(db: Knex, model: string, version: number): Promise<Buffer | undefined> {
  return ((await db('geometries').where({ model, version }).first('bytes')) as { bytes: Buffer } | undefined)
    ?.bytes
}
