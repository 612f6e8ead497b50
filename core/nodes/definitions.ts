import standard from './standard.json'
import type { NodeDefinition } from './definition'
import { ownDefinitions } from './own'

const all: NodeDefinition[] = []
/** All definitions: the standard's that we compute, then ours. */
export const definitions: readonly NodeDefinition[] = all

const byCategory = new Map<string, NodeDefinition[]>()

/** Adds the definition of a node. */
export function addDefinition(d: NodeDefinition): void {
  all.push(d)
  byCategory.set(d.node, [...(byCategory.get(d.node) ?? []), d])
}
for (const d of [...(standard.definitions as NodeDefinition[]), ...ownDefinitions]) addDefinition(d)

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
