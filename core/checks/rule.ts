import type { Element } from '../network/document'
import type { Finding } from './finding'

/** What a rule looks at. */
export interface CheckContext {
  document: Element
  /** Nodes of the document and of its graphs, with their paths. */
  nodes: { path: string; node: Element }[]
  /** Whether a picture that the document names is there; undefined where nobody can say. */
  hasFile?: (file: string) => boolean
}

export interface Rule {
  name: string
  run(context: CheckContext): Finding[]
  /** Mends what the rule found; undefined where only the artist can decide. */
  mend?(document: Element, finding: Finding): Element | undefined
}
