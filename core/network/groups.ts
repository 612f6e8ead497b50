/**
 * Groups: nodegraphs of the standard as the artist handles them. Nodes that give numbers can be grouped; surfaces
 * stay outside, where the cross-section reads them.
 */
import { forget } from './backdrops'
import { childNamed, element, findElement, inputOf, isNode, nameOf, type Element } from './document'
import {
  changeElement,
  connect,
  definitionOf,
  EditError,
  freeName,
  outputType,
  putInput,
  reaches,
  splitPath,
} from './edit'
import type { InputDefinition } from '../nodes/definition'
import { isValueType } from '../nodes/types'

/** A nodegraph that is part of the network, not the body of a node definition. */
export const isGroup = (e: Element): boolean => e.tag === 'nodegraph' && e.attributes.nodedef === undefined
/** Nodes of a document and of its groups, with their paths. */
export function allNodes(document: Element): { path: string; node: Element }[] {
  return document.children.flatMap(e =>
    isNode(e)
      ? [{ path: nameOf(e), node: e }]
      : isGroup(e)
        ? e.children.filter(isNode).map(c => ({ path: `${nameOf(e)}/${nameOf(c)}`, node: c }))
        : [],
  )
}

/** What a group takes from outside, as a node's definition would say it. */
export const groupInputs = (group: Element): InputDefinition[] =>
  group.children
    .filter(c => c.tag === 'input')
    .map(c => ({
      name: nameOf(c),
      type: c.attributes.type ?? 'float',
      ...(c.attributes.unittype !== undefined ? { unittype: c.attributes.unittype } : {}),
    }))

/** Type of what a group gives at an output, or takes at an input. */
const portType = (group: Element, tag: 'input' | 'output', name: string): string | undefined =>
  group.children.find(c => c.tag === tag && nameOf(c) === name)?.attributes.type

/** Type of what an output gives, of a node or of a group; undefined where there is none. */
export const givenType = (source: Element, output?: string): string | undefined =>
  isGroup(source) ? portType(source, 'output', output ?? '') : outputType(source, output)

/** Type of what an input takes, of a node or of a group; undefined where there is none. */
export const takenType = (target: Element, input: string): string | undefined =>
  isGroup(target)
    ? portType(target, 'input', input)
    : definitionOf(target)?.inputs.find(i => i.name === input)?.type

/** The output that a tab of a card stands for, where its node has several. */
export const outputOf = (source: Element, tab: string | null | undefined): string | undefined =>
  isGroup(source) || source.attributes.type === 'multioutput' ? (tab ?? undefined) : undefined

const number = (e: Element, key: 'xpos' | 'ypos'): number => Number(e.attributes[key] ?? 0)
const placed = (e: Element, dx: number, dy: number): Element => ({
  ...e,
  attributes: {
    ...e.attributes,
    xpos: String(+(number(e, 'xpos') + dx).toFixed(3)),
    ypos: String(+(number(e, 'ypos') + dy).toFixed(3)),
  },
})
/** Applies a change to every input of an element and, in a group, of what it holds. */
const mapInputs = (e: Element, change: (i: Element) => Element): Element => ({
  ...e,
  children: e.children.map(c => (c.tag === 'input' || c.tag === 'output' ? change(c) : c)),
})

/**
 * Puts nodes into a group of their own: wires that come in become its inputs, wires that go out its outputs.
 * @throws EditError when a node gives a surface, or none is named
 */
export function groupNodes(document: Element, names: readonly string[]): { document: Element; name: string } {
  const chosen = document.children.filter(c => isNode(c) && names.includes(nameOf(c)))
  if (!chosen.length) throw new EditError('pick the nodes that the group shall hold')
  const surface = chosen.find(c => !isValueType(c.attributes.type!) && c.attributes.type !== 'multioutput')
  if (surface)
    throw new EditError(
      `${nameOf(surface)} gives a surface: surfaces stay outside groups, where the cross-section shows them`,
    )
  const inside = new Set(chosen.map(nameOf))
  const name = freeName(document, 'group')
  const left = Math.min(...chosen.map(c => number(c, 'xpos')))
  const top = Math.min(...chosen.map(c => number(c, 'ypos')))
  const inputs = new Map<string, Element>()
  const outputs = new Map<string, Element>()
  const port = (
    known: Map<string, Element>,
    key: string,
    wish: string,
    make: (free: string) => Element,
  ): string => {
    let p = known.get(key)
    if (!p)
      known.set(
        key,
        (p = make(
          freeName(
            { tag: '', attributes: {}, children: [...chosen, ...inputs.values(), ...outputs.values()] },
            wish,
          ),
        )),
      )
    return nameOf(p)
  }
  const inner = chosen.map(c =>
    mapInputs(placed(c, -left, -top), i => {
      const a = i.attributes
      const from = a.nodename ?? a.nodegraph
      if (from === undefined || (a.nodename !== undefined && inside.has(a.nodename))) return i
      const { nodename: _n, nodegraph: _g, output: _o, ...rest } = a
      return {
        ...i,
        attributes: {
          ...rest,
          interfacename: port(inputs, `${from} ${a.output ?? ''} ${a.type}`, nameOf(i), free =>
            element('input', {
              ...rest,
              name: free,
              ...(a.nodename !== undefined ? { nodename: a.nodename } : { nodegraph: a.nodegraph! }),
              ...(a.output !== undefined ? { output: a.output } : {}),
            }),
          ),
        },
      }
    }),
  )
  const outer = document.children
    .filter(c => !chosen.includes(c))
    .map(c =>
      isNode(c) || isGroup(c)
        ? mapInputs(c, i => {
            const a = i.attributes
            if (a.nodename === undefined || !inside.has(a.nodename) || (isGroup(c) && i.tag === 'output')) return i
            const { nodename, output, ...rest } = a
            const given = port(outputs, `${nodename} ${output ?? ''}`, `${nodename}_out`, free =>
              element('output', {
                name: free,
                type: outputType(
                  chosen.find(x => nameOf(x) === nodename)!,
                  output,
                ),
                nodename,
                ...(output !== undefined ? { output } : {}),
              }),
            )
            return { ...i, attributes: { ...rest, nodegraph: name, output: given } }
          })
        : c,
    )
  const group = element('nodegraph', { name, xpos: String(left), ypos: String(top) }, [
    ...inputs.values(),
    ...inner,
    ...outputs.values(),
  ])
  const at = document.children.findIndex(c => chosen.includes(c))
  const grouped = { ...document, children: [...outer.slice(0, at), group, ...outer.slice(at)] }
  return { document: forget(grouped, inside, [name]), name }
}

/**
 * Takes a group apart: its nodes stand where it stood, wired as before.
 * @throws EditError when there is no such group
 */
export function ungroup(document: Element, name: string): { document: Element; names: string[] } {
  const group = childNamed(document, name)
  if (!group || !isGroup(group)) throw new EditError(`there is no group called ${name}`)
  const nodes = group.children.filter(isNode)
  const renamed = new Map<string, string>()
  let scope: Element = { ...document, children: document.children.filter(c => c !== group) }
  for (const n of nodes) {
    const free = freeName(scope, nameOf(n))
    renamed.set(nameOf(n), free)
    scope = { ...scope, children: [...scope.children, { ...n, attributes: { ...n.attributes, name: free } }] }
  }
  const DRIVERS = ['value', 'nodename', 'nodegraph', 'output', 'colorspace', 'unit', 'unittype']
  /** An input as it stands outside: what drove the group's input drives it. */
  const freed = (i: Element): Element => {
    const a = i.attributes
    if (a.nodename !== undefined)
      return { ...i, attributes: { ...a, nodename: renamed.get(a.nodename) ?? a.nodename } }
    if (a.interfacename === undefined) return i
    const { interfacename, ...rest } = a
    const given = inputOf(group, interfacename)?.attributes ?? {}
    return {
      ...i,
      attributes: { ...rest, ...Object.fromEntries(Object.entries(given).filter(([k]) => DRIVERS.includes(k))) },
    }
  }
  const out = nodes.map(n =>
    mapInputs(
      placed(
        { ...n, attributes: { ...n.attributes, name: renamed.get(nameOf(n))! } },
        number(group, 'xpos'),
        number(group, 'ypos'),
      ),
      freed,
    ),
  )
  const rewired = document.children.flatMap(c => {
    if (c === group) return out
    return [
      isNode(c) || isGroup(c)
        ? mapInputs(c, i => {
            if (i.attributes.nodegraph !== name) return i
            const { nodegraph: _g, output, ...rest } = i.attributes
            const port = group.children.find(
              o => o.tag === 'output' && (output === undefined || nameOf(o) === output),
            )
            const end = port && freed(port).attributes
            return {
              ...i,
              attributes: {
                ...rest,
                ...(end ? Object.fromEntries(Object.entries(end).filter(([k]) => DRIVERS.includes(k))) : {}),
              },
            }
          })
        : c,
    ]
  })
  const names = [...renamed.values()]
  return { document: forget({ ...document, children: rewired }, new Set([name]), names), names }
}

/**
 * Wires any two ends, also across the edge of a group: a wire into it makes an input of the group, one out of it
 * an output.
 * @param from node, `GROUP/NODE`, or a group with `output`;
 * @param to node, `GROUP/NODE`, or a group with one of its inputs
 * @throws EditError where the ends do not fit
 */
export function connectAcross(
  document: Element,
  from: string,
  to: string,
  input: string,
  output?: string,
): Element {
  const [a] = splitPath(from)
  const [b, target] = splitPath(to)
  const s = findElement(document, from)
  const t = findElement(document, to)
  if (!s || !t) throw new EditError('one end of the wire does not exist')
  if (a === b && isNode(s) && isNode(t)) return connect(document, from, to, input, output)
  if ((a && a === to) || (from === b && b))
    throw new EditError('drag from a node inside the group to one outside it, or the other way')
  if (a && a !== b) {
    // out of a group: through one of its outputs
    const group = childNamed(document, a)!
    const type = outputType(s, output)
    const has = group.children.find(
      o =>
        o.tag === 'output' &&
        o.attributes.nodename === nameOf(s) &&
        (o.attributes.output ?? '') === (output ?? ''),
    )
    const port = has ? nameOf(has) : freeName(group, `${nameOf(s)}_out`)
    const open = has
      ? document
      : changeElement(document, a, g => ({
          ...g,
          children: [
            ...g.children,
            element('output', {
              name: port,
              type,
              nodename: nameOf(s),
              ...(output !== undefined ? { output } : {}),
            }),
          ],
        }))
    return connectAcross(open, a, to, input, port)
  }
  const given = givenType(s, output)
  const wanted = takenType(t, input)
  if (!wanted) throw new EditError(`${target} has no input ${input}`)
  if (given !== wanted)
    throw new EditError(
      `${from} gives ${given ?? 'nothing'}, but ${input} takes ${wanted}: put a convert or extract between them`,
    )
  const driver: Record<string, string> = isGroup(s)
    ? { nodegraph: from, output: output! }
    : { nodename: from, ...(s.attributes.type === 'multioutput' && output !== undefined ? { output } : {}) }
  const put = (e: Element, name: string, attributes: Record<string, string>): Element =>
    putInput(e, element('input', { name, type: wanted, ...attributes }))
  if (!b) {
    if (reaches(document, from, to)) throw new EditError(`${from} is fed by ${to}: this wire would close a loop`)
    return changeElement(document, to, e => put(e, input, driver))
  }
  const group = childNamed(document, b)!
  const port = freeName(group, input)
  if (reaches(document, from, b)) throw new EditError(`${from} is fed by ${b}: this wire would close a loop`)
  return changeElement(
    changeElement(document, b, g => put(g, port, driver)),
    to,
    e => put(e, input, { interfacename: port }),
  )
}

/** Where the following of wires ends: at a node, or at attributes that state a value or nothing. */
export interface Driver {
  /** Path of the node that drives. */ path?: string
  node?: Element
  /** The document, or the group that the node is in. */ container: Element
  attributes: Readonly<Record<string, string>>
}

/**
 * Follows what an input or an output says to the node that drives it, or to the value it has, through the edges of
 * groups.
 * @param container of the element: the document, or a group
 */
export function followDriver(
  document: Element,
  container: Element,
  attributes: Readonly<Record<string, string>>,
): Driver {
  let at = container
  let a = attributes
  // a group's input leads out and a group's output in: a loop of the two ends here
  for (let steps = 0; steps < 16; steps++) {
    if (a.nodename !== undefined) {
      const node = childNamed(at, a.nodename)
      return {
        container: at,
        attributes: a,
        ...(node ? { node, path: at === document ? a.nodename : `${nameOf(at)}/${a.nodename}` } : {}),
      }
    }
    const group = a.nodegraph !== undefined ? childNamed(document, a.nodegraph) : undefined
    const { output } = a
    const next = group
      ? group.children.find(c => c.tag === 'output' && (output === undefined || nameOf(c) === output))
      : a.interfacename !== undefined
        ? inputOf(at, a.interfacename)
        : undefined
    if (!next) break
    at = group ?? document
    a = next.attributes
  }
  return { container: at, attributes: a }
}

/** Path of the node that drives an input, looked up through the edges of groups; undefined where no wire does. */
export function driverOf(document: Element, path: string, input: string): string | undefined {
  const [container] = splitPath(path)
  const scope = container ? childNamed(document, container) : document
  const node = findElement(document, path)
  return scope && node && followDriver(document, scope, inputOf(node, input)?.attributes ?? {}).path
}
