/**
 * Thicknesses that the network computes with: a coat's by its tint, a deposit's by what it hides. Either is an input
 * that has it as a share of a reference thickness, which the layer's surface states (`wl_reference`, metres).
 */
import { findElement, inputOf, type Element } from './document'
import { coatOfThickness, nodeAt, thicknessOfCoat, type InputPlace } from './ends'
import { depositOfThickness, thicknessOfDeposit } from './hiding'

/** A layer, as far as its thickness is concerned. */
export interface ThickLayer {
  kind: 'stock' | 'deposit' | 'coat' | 'cut'
  /** Its node on the spine, and the one that has its properties. */
  node: string
  surface: string
}

/** The input that a layer's thickness is; undefined where no node computes with it. */
export const thicknessInput = (document: Element, { kind, node, surface }: ThickLayer): InputPlace | undefined =>
  kind === 'coat'
    ? thicknessOfCoat(document, surface)
    : kind === 'deposit'
      ? thicknessOfDeposit(document, node)
      : undefined

/** Reference thickness of the layer whose thickness an input is, metres; undefined where it is none. */
export function referenceOf(document: Element, place: InputPlace): number | undefined {
  const surface = coatOfThickness(document, place) ?? depositOfThickness(document, place)
  const reference = surface === undefined ? 0 : Number(nodeAt(document, surface)?.attributes.wl_reference)
  return reference > 0 ? reference : undefined
}

/** Thickness that a layer's network computes with, metres; undefined where something drives it, or nothing does. */
export function statedThickness(document: Element, layer: ThickLayer): number | undefined {
  const place = thicknessInput(document, layer)
  const node = place && findElement(document, place.node)
  const share = node && inputOf(node, place.input)?.attributes.value
  if (share === undefined) return undefined
  return Number(share) * Number(findElement(document, layer.surface)?.attributes.wl_reference)
}
