import { addFresh, connect, splitPath } from '../../core/network/edit'
import { element, findElement, type Element } from '../../core/network/document'
import { addPlacement } from '../../core/network/placement'
import type { InputDefinition } from '../../core/nodes/definition'
import { drive } from '../bench/drive'
import { useBench } from '../stores/bench'
import { useStage } from '../stores/stage'
import { isGrey } from './grey'
import { takePicture, usualSpace, type TakenPicture } from './take-picture'

/** Slope of relief that a picture begins with: as if it were some two hundredths of a tile deep. */
const RELIEF = '0.3'

const onNormal = (input: InputDefinition): boolean => /normal$/.test(input.name)

/** Adds an image node with a picture. @returns the new document and the node's path */
function addImage(
  document: Element,
  container: string,
  taken: TakenPicture,
  type: string,
  at: { x: number; y: number },
  space: string | undefined,
): { document: Element; path: string } {
  const given = { xpos: String(at.x), ypos: String(at.y) }
  return addFresh(document, container, taken.name.replace(/\.[^.]*$/, ''), 'image', { type, ...given }, [
    element('input', {
      name: 'file',
      type: 'filename',
      value: taken.file,
      wl_name: taken.name,
      ...(space ? { colorspace: space } : {}),
    }),
  ])
}

/** Puts a node that turns a picture into a normal before an input. @returns the new document and the node's path */
function normalBefore(
  document: Element,
  node: string,
  by: 'normalmap' | 'bump',
): { document: Element; path: string } {
  const at = findElement(document, node)?.attributes ?? {}
  return addFresh(
    document,
    splitPath(node)[0],
    by === 'bump' ? 'relief' : 'normal_map',
    by,
    { type: 'vector3', xpos: String(Number(at.xpos ?? 0) - 1), ypos: String(Number(at.ypos ?? 0) + 0.6) },
    by === 'bump' ? [element('input', { name: 'scale', type: 'float', value: RELIEF })] : [],
  )
}

/** What was decided about a picture that drives an input. */
export interface WiredImage {
  /** In words. */
  said: string
  /** Path of the placement that it lies by. */
  placement: string
}

/**
 * Drives an input by an image file: the file becomes an asset, an image node with a placement is put beside the node
 * and wired. Colours are read as sRGB (floats as linear), all else as data. On a normal a grey picture is taken as
 * height, any other as a map of normals; a length has levels between.
 * @param placement path of one that is there, which the picture shall lie by too
 * @returns undefined while no project is open
 * @throws FormatError where the file is no picture
 */
export async function wireImage(
  file: File,
  node: string,
  input: InputDefinition,
  placement?: string,
): Promise<WiredImage | undefined> {
  const bench = useBench()
  const { extent } = useStage().atHand
  const material = bench.materialKey
  const taken = material === null ? undefined : await takePicture(file)
  if (!taken || material === null) return undefined
  const { picture } = taken
  const space = input.type.startsWith('color') ? usualSpace(picture) : undefined
  const relief = onNormal(input) && isGrey(picture)
  let lies = ''
  const ok = bench.edit(
    `Image on ${node}`,
    d => {
      const [container] = splitPath(node)
      const at = findElement(d, node)?.attributes ?? {}
      const type = relief ? 'float' : onNormal(input) ? 'vector3' : input.type
      const place = { x: Number(at.xpos ?? 0) - 2, y: Number(at.ypos ?? 0) + 0.6 }
      const { document: added, path } = addImage(d, container, taken, type, place, space)
      const laid =
        placement !== undefined
          ? { document: connect(added, placement, path, 'texcoord'), path: placement }
          : addPlacement(added, path)
      lies = laid.path
      if (!onNormal(input)) return drive(laid.document, path, node, input.name, undefined, extent)
      const before = normalBefore(laid.document, node, relief ? 'bump' : 'normalmap')
      const into = connect(before.document, path, before.path, relief ? 'height' : 'in')
      return connect(into, before.path, node, input.name)
    },
    undefined,
    material,
  )
  if (!ok) throw new Error(bench.refused)
  const readAs = relief
    ? 'height'
    : onNormal(input)
      ? 'normals'
      : space === 'srgb_texture'
        ? 'sRGB colour'
        : space === 'lin_rec709'
          ? 'linear colour'
          : 'data'
  return { said: `${picture.width} × ${picture.height}, read as ${readAs}`, placement: lies }
}

/**
 * Adds an image node with a placement to the network, wired to nothing.
 * @param at cells of the network
 * @returns its path; undefined while no project is open
 * @throws FormatError where the file is no picture
 */
export async function placeImage(file: File, at: { x: number; y: number }): Promise<string | undefined> {
  const bench = useBench()
  const material = bench.materialKey
  const taken = material === null ? undefined : await takePicture(file)
  if (!taken || material === null) return undefined
  let path = ''
  const ok = bench.edit(
    `Image ${file.name}`,
    d => {
      const added = addImage(d, '', taken, 'color3', at, usualSpace(taken.picture))
      path = added.path
      return addPlacement(added.document, path).document
    },
    undefined,
    material,
  )
  if (!ok) throw new Error(bench.refused)
  return path
}
