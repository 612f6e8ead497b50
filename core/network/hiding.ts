/**
 * An opaque deposit whose thickness is driven: where there is less of it than its stated thickness, what lies below
 * shows through. What a pigmented film lets through falls with the power of its thickness (Beer–Lambert), and it is
 * said to hide at a contrast ratio of 98 % (ISO 6504-3, hiding power of paints, from memory): 2 % is what shows
 * through at the stated thickness.
 */
import { findElement, inputOf, type Element } from './document'
import { addNode, connect, setAttribute, setValue } from './edit'
import { nodeAt, readersOf, type InputPlace } from './ends'
import { driverOf } from './groups'

/** What shows through a deposit of its stated thickness. */
const SHOWS = 0.02

/** The node that a deposit's presence is taken from, where it hides by its thickness: 1 less a power. */
function hider(document: Element, mix: string): { invert: string; power: string } | undefined {
  const first = driverOf(document, mix, 'mix')
  const node = first !== undefined ? findElement(document, first) : undefined
  const inverts =
    node?.tag === 'multiply' ? [driverOf(document, first!, 'in1'), driverOf(document, first!, 'in2')] : [first]
  for (const invert of inverts) {
    if (invert === undefined || findElement(document, invert)?.tag !== 'invert') continue
    const power = driverOf(document, invert, 'in')
    const of = power !== undefined ? findElement(document, power) : undefined
    if (of?.tag === 'power' && of.attributes.type === 'float') return { invert, power: power! }
  }
  return undefined
}

/**
 * The input that a deposit's thickness is, as a share of its reference thickness.
 * @param mix the deposit's node on the spine
 * @returns nothing where the deposit hides all at any thickness
 */
export function thicknessOfDeposit(document: Element, mix: string): InputPlace | undefined {
  const found = hider(document, mix)
  const surface = driverOf(document, mix, 'fg')
  const stated = surface !== undefined && findElement(document, surface)?.attributes.wl_reference !== undefined
  return found && stated ? { node: found.power, input: 'in2' } : undefined
}

/** Path of the deposit's surface whose thickness an input is; undefined where it is none. */
export function depositOfThickness(document: Element, { node, input }: InputPlace): string | undefined {
  if (input !== 'in2' || nodeAt(document, node)?.tag !== 'power') return undefined
  const inverts = readersOf(document, node).filter(r => nodeAt(document, r.node)?.tag === 'invert')
  const after = inverts.flatMap(r => readersOf(document, r.node))
  const mixes = after.flatMap(r =>
    nodeAt(document, r.node)?.tag === 'multiply' ? readersOf(document, r.node) : [r],
  )
  return mixes
    .filter(r => r.input === 'mix' && thicknessOfDeposit(document, r.node)?.node === node)
    .map(r => driverOf(document, r.node, 'fg'))
    .find(s => s !== undefined)
}

/**
 * Makes a deposit hide by its thickness: its presence becomes 1 − 0.02^(thickness / stated thickness), times the mask
 * that it has.
 * @param mix the deposit's node on the spine
 * @param metres its thickness now
 */
export function hideByThickness(
  document: Element,
  mix: string,
  metres: number,
): { document: Element; place: InputPlace } {
  const surface = driverOf(document, mix, 'fg')!
  const at = findElement(document, mix)?.attributes
  const x = Number(at?.xpos ?? 0)
  const y = Number(at?.ypos ?? 0) - 1.2
  let d = setAttribute(document, surface, 'wl_reference', String(metres))
  d = setAttribute(d, surface, 'wl_thickness', String(metres))
  const mask = driverOf(d, mix, 'mix')
  const constant = Number(inputOf(findElement(d, mix)!, 'mix')?.attributes.value ?? 1)
  const power = addNode(d, '', 'power', 'float', x - 2, y)
  d = setValue(
    setValue(power.document, power.path, 'in1', 'float', String(SHOWS)),
    power.path,
    'in2',
    'float',
    '1',
  )
  const hides = addNode(d, '', 'invert', 'float', x - 1, y)
  d = connect(hides.document, power.path, hides.path, 'in')
  let presence = hides.path
  if (mask !== undefined || constant !== 1) {
    const both = addNode(d, '', 'multiply', 'float', x, y)
    d = connect(both.document, hides.path, both.path, 'in1')
    d =
      mask !== undefined
        ? connect(d, mask, both.path, 'in2')
        : setValue(d, both.path, 'in2', 'float', String(constant))
    presence = both.path
  }
  return { document: connect(d, presence, mix, 'mix'), place: { node: power.path, input: 'in2' } }
}

/** Sets the thickness of a deposit that hides by it, metres; one that is driven stays driven. */
export function setHidingThickness(document: Element, mix: string, metres: number): Element {
  const place = thicknessOfDeposit(document, mix)
  const surface = place && findElement(document, driverOf(document, mix, 'fg')!)
  if (!place || !surface || driverOf(document, place.node, place.input) !== undefined) return document
  const share = metres / Number(surface.attributes.wl_reference)
  return setValue(document, place.node, place.input, 'float', String(+share.toPrecision(6)))
}
