import { inputOf, findElement } from '../../core/network/document'
import { setValue } from '../../core/network/edit'
import { ASSET } from '../../core/network/asset'
import { useBench } from '../stores/bench'
import { takePicture, usualSpace } from './take-picture'

/** A picture that the project has: its name in documents, and what people call it. */
export interface ProjectPicture {
  file: string
  name: string
}

/** Pictures that materials of the project name, each once, by name. */
export function projectPictures(): ProjectPicture[] {
  const found = new Map<string, string>()
  const visit = (e: { attributes: Record<string, string>; children: readonly (typeof e)[] }): void => {
    const { type, value, wl_name: name } = e.attributes
    if (type === 'filename' && value !== undefined && ASSET.test(value)) found.set(value, name ?? 'picture')
    e.children.forEach(visit)
  }
  Object.values(useBench().state?.materials ?? {}).forEach(visit)
  return [...found].map(([file, name]) => ({ file, name })).sort((a, b) => a.name.localeCompare(b.name, 'en'))
}

/**
 * Gives an input of files another picture; wires and values of its node stay. A colour that was never read as anything
 * is read in the usual space.
 */
export function setPicture(node: string, input: string, picture: ProjectPicture, usual = 'srgb_texture'): boolean {
  const bench = useBench()
  return bench.edit(`${picture.name} on ${node}`, d => {
    const e = findElement(d, node)
    const was = e && inputOf(e, input)?.attributes
    const colour = e?.attributes.type?.startsWith('color') === true
    const space = was?.colorspace ?? (colour ? usual : undefined)
    return setValue(d, node, input, 'filename', picture.file, {
      wl_name: picture.name,
      ...(space !== undefined ? { colorspace: space } : {}),
    })
  })
}

/**
 * The same with a file that is not in the project yet.
 * @returns what was decided, in words
 * @throws FormatError where the file is no picture
 */
export async function replaceImage(file: File, node: string, input: string): Promise<string> {
  const taken = await takePicture(file)
  if (!taken) return ''
  setPicture(node, input, taken, usualSpace(taken.picture))
  return `${taken.picture.width} × ${taken.picture.height}`
}
