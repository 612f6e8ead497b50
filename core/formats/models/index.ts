/** A model out of the files that came together: the model itself, its material libraries, its images. */
import { FormatError } from '../error'
import { glb, gltf } from './gltf'
import type { ModelFiles, ModelFormat } from './model-format'
import { obj } from './obj'
import { ply } from './ply'

/** Formats of models that are read; a new one is a file of its own, a line here and its ending in `ending.ts`. */
export const modelFormats: ModelFormat[] = [glb, gltf, obj, ply]

/** Adds a format from outside. */
export const registerModelFormat = (format: ModelFormat): unknown => modelFormats.push(format)

const formatOf = (name: string): ModelFormat | undefined => {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase()
  return modelFormats.find(f => f.ending === ending)
}

/**
 * Reads the first model among some files with what belongs to it.
 * @throws FormatError where there is no model, or one that cannot be read
 */
export async function readModelFiles(files: readonly { name: string; bytes: Uint8Array }[]): Promise<ModelFiles> {
  const main = files.find(f => formatOf(f.name))
  if (!main)
    throw new FormatError(
      'model',
      `none of the files is a model: ${modelFormats.map(f => `.${f.ending}`).join(', ')} are`,
    )
  return formatOf(main.name)!.read(main.bytes, new Map(files.map(f => [f.name.split(/[\\/]/).at(-1)!, f.bytes])))
}
