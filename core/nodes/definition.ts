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
