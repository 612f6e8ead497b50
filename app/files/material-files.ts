import { strFromU8, strToU8, zipSync } from 'fflate'
import { unpackZip } from '../../core/formats/unpack'
import { readMtlx, writeMtlx } from '../../core/formats/mtlx/mtlx'
import { isZip } from '../../core/formats/containers'
import { pictureFormat } from '../../core/formats/pictures'
import type { Element } from '../../core/network/document'
import { mapFiles } from '../../core/network/map-files'
import { translateSurfaces } from '../../core/formats/mtlx/surface-translation'
import { spellCoordinates } from '../../core/formats/mtlx/spelled-coordinates'
import { withOwnDefinitions } from '../../core/formats/mtlx/own-definitions'
import { api } from '../composables/api'
import { ASSET } from '../../core/network/asset'

/** Largest unpacked material, bytes. */
const LARGEST = 512 * 1024 * 1024
const baseName = (path: string) => path.split(/[\\/]/).at(-1) ?? path

/**
 * Reads a material from dropped files: one .mtlx with its images beside it, or a zip of them. Images become
 * assets; the document names them by content.
 * @throws Error in words for the artist
 */
export async function readMaterialFiles(files: File[]): Promise<{
  document: Element
  name: string
  missing: string[]
  /** What of another surface has no equivalent in the open one, in words. */ lost: string[]
}> {
  const content = new Map<string, Uint8Array>()
  for (const f of files) {
    const bytes = new Uint8Array(await f.arrayBuffer())
    if (!isZip(bytes)) {
      content.set(f.name, bytes)
      continue
    }
    for (const [name, b] of Object.entries(unpackZip(bytes, LARGEST))) content.set(name, b)
  }
  const main = [...content.keys()].find(n => n.toLowerCase().endsWith('.mtlx'))
  if (!main) throw new Error('There is no .mtlx among the files.')
  const { document, lost } = translateSurfaces(readMtlx(strFromU8(content.get(main)!)))
  const missing: string[] = []
  const hashes = new Map<string, string>()
  for (const [name, bytes] of content)
    if (pictureFormat(bytes)) hashes.set(baseName(name), await api.putAsset(bytes, baseName(name)))
  const named = mapFiles(document, (value, attributes) => {
    if (ASSET.test(value)) return attributes
    const hash = hashes.get(baseName(value))
    if (!hash) {
      if (value) missing.push(baseName(value))
      return attributes
    }
    return { ...attributes, value: `asset:${hash}`, wl_name: baseName(value) }
  })
  return {
    document: named,
    name: baseName(main)
      .replace(/\.mtlx$/i, '')
      .replace(/[_]+/g, ' '),
    missing,
    lost,
  }
}

/** Writes a material for others: .mtlx alone, or a zip with its images. */
export async function writeMaterialFiles(
  document: Element,
  name: string,
): Promise<{ file: string; bytes: Uint8Array }> {
  const images = new Map<string, string>()
  const taken = new Set<string>()
  const relative = mapFiles(document, (value, attributes) => {
    const hash = ASSET.exec(value)?.[1]
    if (!hash) return attributes
    let file = images.get(hash)
    if (!file) {
      const clean = (attributes.wl_name ?? hash.slice(0, 12)).replace(/[^A-Za-z0-9._-]/g, '_').replace(/^\.+/, '_')
      file = clean
      for (let i = 2; taken.has(file); i++) file = clean.replace(/(\.[^.]*)?$/, `_${i}$1`)
      taken.add(file)
      images.set(hash, file)
    }
    const { wl_name: _, ...rest } = attributes
    return { ...rest, value: `images/${file}` }
  })
  const text = writeMtlx(withOwnDefinitions(spellCoordinates(relative)))
  const base = name.replace(/[^A-Za-z0-9._-]+/g, '_') || 'material'
  if (!images.size) return { file: `${base}.mtlx`, bytes: strToU8(text) }
  const entries: Record<string, Uint8Array> = { [`${base}.mtlx`]: strToU8(text) }
  for (const [hash, file] of images) entries[`images/${file}`] = await api.asset(hash)
  return { file: `${base}.zip`, bytes: zipSync(entries, { level: 0 }) }
}
