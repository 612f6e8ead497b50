import { definitionOf, setNumbers, splitPath } from '../../core/network/edit'
import { findElement, inputOf, type Element } from '../../core/network/document'
import { addField } from '../../core/network/field'
import { addPlacement } from '../../core/network/placement'
import { SHAPE_NODES } from '../../core/nodes/shape-nodes'
import { suitedLength } from '../words/suited'

/** Patterns of −1..1, which begin as 0..1; those that lie in space, and those that lie on coordinates. */
const BOTH_SIGNS = new Set(['noise2d', 'noise3d'])
const IN_SPACE = /^(noise|fractal|cellnoise|worleynoise|unifiednoise)3d$/
const ON_COORDINATES = /^(noise|fractal|cellnoise|worleynoise|unifiednoise)2d$/
/** Metres that a pattern begins at where the part is not known. */
const SIZE = 0.02

/** How large the part at hand is, metres, as far as that is known. */
export interface PartAtHand {
  extent: number | undefined
  /** Metres of one unit of its coordinates; 0 without coordinates. */
  tile: readonly [number, number] | undefined
}

const put = (d: Element, node: string, input: string, metres: number): Element =>
  setNumbers(d, node, input, 'float', [metres])

/**
 * What a node that was just added begins with so that something is seen of it: a pattern lies over the part at a size
 * that suits it, an image has a placement, a radius fits. What is wired already stays.
 */
export function beginWith(document: Element, path: string, part: PartAtHand): Element {
  const node = findElement(document, path)
  if (!node) return document
  const free = (input: string) => inputOf(node, input) === undefined
  const [group] = splitPath(path)
  let d = document
  if (BOTH_SIGNS.has(node.tag) && node.attributes.type === 'float')
    d = put(put(d, path, 'amplitude', 0.5), path, 'pivot', 0.5)
  const radius = suitedLength('radius', part.extent)
  if (radius !== undefined && SHAPE_NODES.has(node.tag)) d = put(d, path, 'radius', radius)
  const size = suitedLength('size', part.extent) ?? SIZE
  if (IN_SPACE.test(node.tag) && free('position') && !group) return addField(d, path, size).document
  if (!free('texcoord')) return d
  if (node.tag === 'image') return addPlacement(d, path).document
  const [u = 0, v = 0] = part.tile ?? []
  if (ON_COORDINATES.test(node.tag))
    return addPlacement(d, path, 'texcoord', u > 0 && v > 0 ? [size / u, size / v] : [0.1, 0.1]).document
  return d
}

/** Lengths that begin to act when another number does: they suit the part then, unless somebody has said them. */
const BEGINS = new Map([['subsurface_weight', 'subsurface_radius']])

/** A length that an input just put into effect, as it suits the part; the document itself where there is none. */
export function beginLength(document: Element, node: string, input: string, part: PartAtHand): Element {
  const length = BEGINS.get(input)
  const metres = length !== undefined ? suitedLength(length, part.extent) : undefined
  const e = findElement(document, node)
  const has = e && length && definitionOf(e)?.inputs.some(i => i.name === length)
  return has && metres !== undefined && inputOf(e, length) === undefined
    ? put(document, node, length, metres)
    : document
}
