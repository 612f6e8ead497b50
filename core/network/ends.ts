import { CARRIED } from '../nodes/carried'
import { isValueType } from '../nodes/types'
import { childNamed, findElement, inputOf, isNode, nameOf, type Element } from './document'
import { joinPath, splitPath } from './edit'
import { allNodes, driverOf, followDriver, isGroup } from './groups'
import { inPostOrder } from './post-order'

/** An input of a node. */
export interface InputPlace {
  /** Path of the node. */
  node: string
  input: string
}

/** What is known of a document's wires, once a document. */
interface Wires {
  /** Nodes of the document and of its groups, by path. */ nodes: ReadonlyMap<string, Element>
  /** Inputs of nodes that each node drives, by its path, followed through the edges of groups. */
  readers: ReadonlyMap<string, readonly InputPlace[]>
  /** Ends of what each node gives, by its path, as far as they were asked for. */
  ends: Map<string, readonly InputPlace[]>
}
const known = new WeakMap<Element, Wires>()

function wiresOf(document: Element): Wires {
  let wires = known.get(document)
  if (wires) return wires
  const nodes = new Map(allNodes(document).map(({ path, node }) => [path, node]))
  const readers = new Map<string, InputPlace[]>()
  for (const [path, node] of nodes) {
    const [group] = splitPath(path)
    const scope = group ? childNamed(document, group)! : document
    for (const i of node.children) {
      if (i.tag !== 'input') continue
      // a wire beside its node, which most are, needs no search
      const { nodename } = i.attributes
      const beside = nodename !== undefined ? joinPath(group, nodename) : ''
      const from = nodes.has(beside) ? beside : followDriver(document, scope, i.attributes).path
      if (from === undefined) continue
      const list = readers.get(from)
      const place = { node: path, input: nameOf(i) }
      if (list) list.push(place)
      else readers.set(from, [place])
    }
  }
  known.set(document, (wires = { nodes, readers, ends: new Map() }))
  return wires
}

/** A node of the document or of one of its groups, by its path: looked up, not looked for. */
export const nodeAt = (document: Element, path: string): Element | undefined => wiresOf(document).nodes.get(path)

/** A node, looked up, or a group. */
export const elementAt = (document: Element, path: string): Element | undefined =>
  nodeAt(document, path) ?? findElement(document, path)

/** Inputs of nodes that a node drives, followed through the edges of groups. */
export const readersOf = (document: Element, path: string): readonly InputPlace[] =>
  wiresOf(document).readers.get(path) ?? []

/** Whether a node's numbers are plain: a picture's, a pattern's, or those of a node that carries nothing. */
export function isPlainSource(document: Element, path: string): boolean {
  const tag = wiresOf(document).nodes.get(path)?.tag ?? ''
  return !CARRIED[tag] || /^(image|tiledimage|noise\dd|fractal\dd)$/.test(tag)
}

/** Whether a number at an input comes out of its node unscaled. */
function carries(document: Element, { node: path, input }: InputPlace): boolean {
  const node = wiresOf(document).nodes.get(path)
  if (!node || !isValueType(node.attributes.type ?? '') || !CARRIED[node.tag]?.includes(input)) return false
  if (node.tag !== 'multiply') return true
  // of a picture or noise times a number the number is the length, else the first of two is
  const first = driverOf(document, path, 'in1')
  const plain = first !== undefined && isPlainSource(document, first)
  return input === (plain ? 'in2' : 'in1')
}

/** Ends of what a node gives. Those of the nodes after it come first. */
function endsOfNode(document: Element, path: string): readonly InputPlace[] {
  const { ends } = wiresOf(document)
  inPostOrder(
    path,
    at =>
      readersOf(document, at)
        .filter(r => carries(document, r))
        .map(r => r.node),
    at => ends.has(at),
    at => {
      // a loop of wires, which is a fault said elsewhere, adds nothing
      const reached = readersOf(document, at).map(r => (carries(document, r) ? (ends.get(r.node) ?? []) : [r]))
      const [only = []] = reached
      ends.set(at, reached.length > 1 ? [...new Set(reached.flat())] : only)
    },
  )
  return ends.get(path)!
}

/**
 * Where a number ends: the inputs that it reaches unscaled, through nodes that add, choose, clamp and give levels, and
 * through groups. What is shown of it in a unit is what these are shown in.
 * @returns nothing where it reaches no input, itself where its node carries it no further
 */
export function endsOf(document: Element, place: InputPlace): readonly InputPlace[] {
  if (carries(document, place)) return endsOfNode(document, place.node)
  if (wiresOf(document).nodes.has(place.node)) return [place]
  const group = childNamed(document, place.node)
  if (!group || !isGroup(group)) return []
  const inner = group.children
    .filter(isNode)
    .flatMap(node =>
      node.children
        .filter(i => i.tag === 'input' && i.attributes.interfacename === place.input)
        .flatMap(i => endsOf(document, { node: `${place.node}/${nameOf(node)}`, input: nameOf(i) })),
    )
  return [...new Set(inner)]
}

/** Path of the coat whose thickness, as a share of its reference thickness, an input is; undefined where it is none. */
export function coatOfThickness(document: Element, { node, input }: InputPlace): string | undefined {
  if (input !== 'in2' || nodeAt(document, node)?.tag !== 'power') return undefined
  return readersOf(document, node).find(
    r => r.input === 'coat_color' && nodeAt(document, r.node)?.attributes.wl_reference !== undefined,
  )?.node
}

/** The input that a coat's thickness is wired into, its colour being a tint to the power of it; if it has one. */
export function thicknessOfCoat(document: Element, coat: string): InputPlace | undefined {
  const power = driverOf(document, coat, 'coat_color')
  const node = power !== undefined ? findElement(document, power) : undefined
  const has = node?.tag === 'power' && findElement(document, coat)?.attributes.wl_reference !== undefined
  return has && inputOf(node, 'in2') ? { node: power!, input: 'in2' } : undefined
}
