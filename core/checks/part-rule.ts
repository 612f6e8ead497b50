import type { PartSize } from '../mesh/part-size'
import type { Element } from '../network/document'
import type { Finding } from './finding'

/** What is known of the meshes of parts, by name: whether each closes, and has coordinates (UV); how large it is. */
export interface MeshFacts {
  closed: ReadonlyMap<string, boolean>
  mapped: ReadonlyMap<string, boolean>
  sizes: ReadonlyMap<string, PartSize>
}

/** A part, and the material that it wears. */
export interface WornPart {
  name: string
  material: string
}

/** A rule about what a part wears and what its mesh is. */
export interface PartRule {
  /**
   * @param document of the material
   * @returns what is wrong, if something is; a fact that is not known finds nothing
   */
  run(part: WornPart, document: Element, facts: MeshFacts): Finding | undefined
}

/**
 * A rule about what a mesh lacks.
 * @param nodes of a document that need it
 */
export const needs = (
  fact: 'closed' | 'mapped',
  nodes: (document: Element) => string[],
  finding: (part: WornPart, nodes: readonly string[]) => Finding,
): PartRule => ({
  run(part, document, facts) {
    const needing = facts[fact].get(part.name) === false ? nodes(document) : []
    return needing.length > 0 ? finding(part, needing) : undefined
  },
})
