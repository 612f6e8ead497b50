import standard from './standard.json'
import { ownDefinitions } from './own'

/** Input of a node definition; texts as the standard writes them. */
export interface InputDefinition {
  name: string
  type: string
  default?: string
  /** Geometric value used when nothing is connected: Pobject, Pworld, Nworld, Tworld, Bworld, Vworld, UV0. */
  defaultgeomprop?: string
  /** Allowed strings, or names of the integers 0, 1, …, comma-separated. */
  enum?: string
  uimin?: string
  uimax?: string
  uisoftmin?: string
  uisoftmax?: string
  uifolder?: string
  unittype?: string
}

export interface NodeDefinition {
  /** Name of the definition, `ND_…`. */
  name: string
  /** Category, the element's tag. */
  node: string
  nodegroup: string
  inputs: InputDefinition[]
  outputs: { name: string; type: string; defaultinput?: string }[]
}

/** All definitions: the standard's that we compute, then ours. */
export const definitions: readonly NodeDefinition[] = [
  ...(standard.definitions as NodeDefinition[]),
  ...ownDefinitions,
]

const byCategory = new Map<string, NodeDefinition[]>()
for (const d of definitions) byCategory.set(d.node, [...(byCategory.get(d.node) ?? []), d])

/** Definitions of a category; empty for an unknown one. */
export const definitionsOf = (category: string): readonly NodeDefinition[] => byCategory.get(category) ?? []

/** Output type of a definition as the element's `type` attribute says it. */
export const outputTypeOf = (d: NodeDefinition): string =>
  d.outputs.length > 1 ? 'multioutput' : d.outputs[0]!.type

/**
 * Picks the definition of a node by category, output type and the types of the inputs it states.
 * @returns undefined when none fits
 */
export function matchDefinition(
  category: string,
  type: string,
  stated: ReadonlyMap<string, string>,
): NodeDefinition | undefined {
  return definitionsOf(category).find(
    d =>
      outputTypeOf(d) === type &&
      [...stated].every(([name, t]) => {
        const i = d.inputs.find(x => x.name === name)
        return !i || i.type === t
      }),
  )
}
