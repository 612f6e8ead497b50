import { findElement, type Element } from './document'
import { changeElement, clearInput, connect, EditError } from './edit'
import { driverOf } from './groups'
import { retype, typesOf } from './retype'

/** What a picture on a normal is taken as: heights, or normals that were computed before. */
export type NormalAs = 'height' | 'normals'

const NODE = { height: 'bump', normals: 'normalmap' } as const
const TAKES = { height: ['height', 'float'], normals: ['in', 'vector3'] } as const

/** What drives a normal, and how it is taken; undefined where neither a relief nor a map of normals does. */
export function normalAs(
  document: Element,
  node: string,
  input: string,
): { path: string; as: NormalAs } | undefined {
  const path = driverOf(document, node, input)
  const tag = path !== undefined ? findElement(document, path)?.tag : undefined
  const as = tag === NODE.height ? 'height' : tag === NODE.normals ? 'normals' : undefined
  return as && { path: path!, as }
}

/**
 * Takes what drives a normal as something else: its node becomes the other one, the picture before it of the type that
 * that takes.
 * @throws EditError where neither a relief nor a map of normals drives it
 */
export function takeNormalAs(document: Element, node: string, input: string, as: NormalAs): Element {
  const now = normalAs(document, node, input)
  if (!now) throw new EditError(`neither relief nor normals drive ${input} of ${node}`)
  if (now.as === as) return document
  const { path } = now
  const source = driverOf(document, path, TAKES[now.as][0])
  const bare = changeElement(clearInput(document, path, TAKES[now.as][0]), path, e => ({ ...e, tag: NODE[as] }))
  if (source === undefined) return bare
  const [taken, type] = TAKES[as]
  const tag = findElement(document, source)!.tag
  const read = /image$/.test(tag) && typesOf(tag).includes(type) ? retype(bare, source, type) : bare
  return connect(read, source, path, taken)
}
