import { definitionsOf } from '../../core/nodes/definitions'
import { wireBetween } from '../../core/nodes/types'

/** A wire that was let go over nothing, and waits for a node. */
export interface LooseWire {
  /** Path of the node that gives, and which of its outputs where it has several. */
  from: string
  output: string | undefined
  type: string
  /** Where it was let go, in cells of the network. */
  at: { x: number; y: number }
}

/** Where a number is more often meant for an input than for the first that takes it, and the type that the node has. */
const MEANT: Readonly<Record<string, { input: string; type: string }>> = {
  // of two colours, by a mask
  mix: { input: 'mix', type: 'color3' },
}
/** The input of a category that a wire of a type is meant for before others, with the type that the node has then. */
export const meantFor = (category: string, type: string): { input: string; type: string } | undefined =>
  type === 'float' ? MEANT[category] : undefined

/**
 * The input of a category that a wire of a type goes into: the first that takes just that, else one that it can become;
 * undefined where none takes it.
 */
export function fittingInput(category: string, type: string): string | undefined {
  const meant = meantFor(category, type)
  if (meant) return meant.input
  const inputs = definitionsOf(category).flatMap(d => d.inputs)
  const takes = (how: 'same' | 'convert') => inputs.find(i => wireBetween(type, i.type) === how)?.name
  return takes('same') ?? takes('convert')
}
