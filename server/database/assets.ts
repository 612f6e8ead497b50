import type { Knex } from 'knex'
import { isGlb } from '../../core/formats/containers'
import { pictureFormat } from '../../core/formats/pictures'
import { hashOf } from './hash'

/** Largest asset, bytes. */
export const LARGEST_ASSET = 256 * 1024 * 1024

/** Type of an asset by its content; undefined for what is not kept. */
export const assetType = (bytes: Uint8Array): string | undefined =>
  pictureFormat(bytes)?.type ?? (isGlb(bytes) ? 'model/gltf-binary' : undefined)

/** Keeps bytes under their content hash. */
export async function putAsset(db: Knex, bytes: Uint8Array, type: string, name: string): Promise<string> {
  const hash = hashOf(bytes)
  await db('assets')
    .insert({ hash, type, name: name.slice(0, 200), size: bytes.length, bytes: Buffer.from(bytes) })
    .onConflict('hash')
    .ignore()
  return hash
}

export async function getAsset(
  db: Knex,
  hash: string,
): Promise<{ type: string; name: string; bytes: Buffer } | undefined> {
  return db('assets').where({ hash }).first('type', 'name', 'bytes')
}
