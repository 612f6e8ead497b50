/**
 * The displacement of a material as an artist sets it: a height, held between two bounds, less a zero level, times an
 * amount. In the document these are nodes of the standard, one after the other.
 */
import { displacementOf } from './displacement'
import { childNamed, element, findElement, inputOf, type Element } from './document'
import { addNode, changeElement, connect, putInput, setValue } from './edit'
import type { InputPlace } from './ends'
import { driverOf } from './groups'

/** Where each of its numbers is, as far as the document has them. */
export interface DisplacementPlaces {
  height: InputPlace
  /** How far a height of one moves the surface, metres. */
  amount: InputPlace
  /** The height that stays where it is. */
  zero?: InputPlace
  low?: InputPlace
  high?: InputPlace
}

/** The places of a material's displacement; undefined where it has none, or one of another make. */
export function displacementPlaces(document: Element, material: string): DisplacementPlaces | undefined {
  const node = displacementOf(document, material)
  if (node === undefined || findElement(document, node)?.tag !== 'displacement') return undefined
  const places: DisplacementPlaces = {
    height: { node, input: 'displacement' },
    amount: { node, input: 'scale' },
  }
  const from = () => driverOf(document, places.height.node, places.height.input)
  const tagOf = (path: string | undefined) => (path === undefined ? undefined : findElement(document, path)?.tag)
  const subtract = from()
  if (tagOf(subtract) === 'subtract' && driverOf(document, subtract!, 'in2') === undefined) {
    places.zero = { node: subtract!, input: 'in2' }
    places.height = { node: subtract!, input: 'in1' }
  }
  const clamp = from()
  if (tagOf(clamp) === 'clamp') {
    places.low = { node: clamp!, input: 'low' }
    places.high = { node: clamp!, input: 'high' }
    places.height = { node: clamp!, input: 'in' }
  }
  return places
}

/**
 * Gives a material a displacement that moves nothing yet: heights between −1 and 1, a level of 0 that stays.
 * @param amount metres that a height of one is to move
 * @returns also where its numbers are
 */
export function addDisplacement(
  document: Element,
  material: string,
  amount: number,
): { document: Element; places: DisplacementPlaces } {
  const at = childNamed(document, material)?.attributes
  const x = Number(at?.xpos ?? 0)
  const y = Number(at?.ypos ?? 0) + 1.4
  const clamp = addNode(document, '', 'clamp', 'float', x - 3, y)
  const zero = addNode(clamp.document, '', 'subtract', 'float', x - 2, y)
  const moved = addNode(zero.document, '', 'displacement', 'displacementshader', x - 1, y)
  let d = connect(moved.document, clamp.path, zero.path, 'in1')
  // pictures give 0 to 1, noises −1 to 1
  d = setValue(d, clamp.path, 'low', 'float', '-1')
  d = setValue(d, zero.path, 'in2', 'float', '0')
  d = connect(d, zero.path, moved.path, 'displacement')
  d = setValue(d, moved.path, 'scale', 'float', String(+amount.toPrecision(3)))
  d = changeElement(d, material, m =>
    putInput(
      m,
      element('input', { name: 'displacementshader', type: 'displacementshader', nodename: moved.path }),
    ),
  )
  return { document: d, places: displacementPlaces(d, material)! }
}

/** Takes the displacement from a material; its nodes stay. */
export const removeDisplacement = (document: Element, material: string): Element =>
  changeElement(document, material, m => ({
    ...m,
    children: m.children.filter(c => c !== inputOf(m, 'displacementshader')),
  }))
