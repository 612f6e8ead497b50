/**
 * A material document: a MaterialX document as a tree, the one source of truth for a material. Unknown elements
 * and attributes stand in the tree like known ones and keep their order, so that reading and writing lose nothing.
 */
export interface Element {
  /**
   * Element name, for example `nodegraph`, `input`, `noise3d`; `#comment` for a comment, whose text is the
   * attribute `text`.
   */
  tag: string
  /** Attributes in their order of writing. */
  attributes: Record<string, string>
  children: Element[]
}

/** Makes an element. */
export function element(tag: string, attributes: Record<string, string> = {}, children: Element[] = []): Element {
  return { tag, attributes, children }
}

/** An empty document of the version we write. */
export function emptyDocument(): Element {
  return element('materialx', { version: '1.39', colorspace: 'lin_rec709' })
}

export const nameOf = (e: Element): string => e.attributes.name ?? ''

/** Elements that are not nodes. */
const STRUCTURE = new Set([
  'materialx',
  'input',
  'output',
  'nodegraph',
  'nodedef',
  'implementation',
  'typedef',
  'unittypedef',
  'unitdef',
  'geominfo',
  'geomprop',
  'geompropdef',
  'look',
  'lookgroup',
  'materialassign',
  'collection',
  'propertyset',
  'property',
  'propertysetassign',
  'variantset',
  'variant',
  'token',
  '#comment',
  'visibility',
  'attributedef',
  'targetdef',
  'backdrop',
  'member',
  'xi:include',
])

export const isNode = (e: Element): boolean => !STRUCTURE.has(e.tag) && e.attributes.type !== undefined

/** Finds a child by name. */
export function childNamed(parent: Element, name: string): Element | undefined {
  return parent.children.find(c => c.attributes.name === name && c.tag !== '#comment')
}

/** Input element of a node. */
export function inputOf(node: Element, name: string): Element | undefined {
  return node.children.find(c => c.tag === 'input' && c.attributes.name === name)
}

/** Whether an input is driven by a node, a group, or an input of the group that it is in. */
export const isDriven = ({ tag, attributes: a }: Element): boolean =>
  tag === 'input' && (a.nodename ?? a.nodegraph ?? a.interfacename) !== undefined

/**
 * Finds an element by path, names joined with `/` (`NODE` or `GRAPH/NODE`).
 * @returns undefined when there is none
 */
export function findElement(document: Element, path: string): Element | undefined {
  let at: Element | undefined = document
  for (const name of path.split('/')) at = at && childNamed(at, name)
  return at
}

/** Surface materials of a document, in order. */
export function materialsOf(document: Element): Element[] {
  return document.children.filter(e => e.tag === 'surfacematerial')
}
