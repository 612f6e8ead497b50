import { existsSync, readFileSync } from 'node:fs'
import { dirname, isAbsolute, relative, resolve } from 'node:path'
import { readGlb } from '../core/formats/models/glb'
import type { Picture } from '../core/formats/pictures/picture'
import { readPicture } from '../core/formats/pictures'
import { readMtlx } from '../core/formats/mtlx/mtlx'
import { scaleModel } from '../core/mesh/extent'
import { translateSurfaces } from '../core/formats/mtlx/surface-translation'
import { readObj } from '../core/formats/models/obj'
import { readPly } from '../core/formats/models/ply'
import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import { InputError } from './options'

/** Reads a file, or says that it is missing. */
export function readBytes(file: string): Uint8Array {
  if (!existsSync(file)) throw new InputError(`there is no file ${file}`)
  return new Uint8Array(readFileSync(file))
}

/**
 * Reads a material for use: other surfaces of the standard become the open one, and what has no equivalent is
 * said.
 */
export function readMaterial(file: string): Element {
  const { document, lost } = translateSurfaces(readDocument(file))
  for (const what of lost) console.error(`${file}: ${what}`)
  return document
}
export const readDocument = (file: string): Element => readMtlx(new TextDecoder().decode(readBytes(file)))

/** Reads a model by its ending. @param scale factor to metres */
export async function readModel(file: string, scale = 1): Promise<Model> {
  const bytes = readBytes(file)
  let model: Model
  if (/\.glb$/i.test(file)) model = await readGlb(bytes)
  else if (/\.obj$/i.test(file)) model = readObj(new TextDecoder().decode(bytes))
  else if (/\.ply$/i.test(file)) model = { parts: [readPly(bytes)] }
  else throw new InputError(`${file} is not a model that can be read: .glb, .obj and .ply are`)
  scaleModel(model, scale)
  return model
}

/** Finds pictures that a document in `folder` names. Names that lead out of the folder are refused. */
export function pictureReader(folder: string): (file: string) => Picture | undefined {
  return file => {
    const path = resolve(folder, file)
    const inside = relative(folder, path)
    let picture: Picture | undefined
    if (file && !isAbsolute(file) && !inside.startsWith('..') && existsSync(path))
      picture = readPicture(readBytes(path))
    else if (file) console.error(`missing picture: ${JSON.stringify(file)}`)
    return picture
  }
}

export const folderOf = (file: string): string => dirname(resolve(file))
