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

/**
 * Geometric value of an input that nothing is connected to. Coordinates of a picture are the part's own in every node:
 * the standard says so of most, and gives `place2d` the constant 0, 0, on which any picture is one colour.
 */
export const geometricDefault = (input: InputDefinition): string | undefined =>
  input.defaultgeomprop ?? (input.name === 'texcoord' && input.type === 'vector2' ? 'UV0' : undefined)

export interface NodeDefinition {
  /** Name of the definition, `ND_…`. */
  name: string
  /** Category, the element's tag. */
  node: string
  nodegroup: string
  inputs: InputDefinition[]
  outputs: { name: string; type: string; defaultinput?: string }[]
}
