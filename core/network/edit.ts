/**
 * Edits of a document. Each gives a new document and leaves the old one as it was; what an edit does not touch is
 * shared between the two. An edit that cannot be done throws {@link EditError} with the reason in words for the
 * artist.
 */
import type { NodeDefinition } from '../nodes/definition'
import { definitionsOf, matchDefinition, outputTypeOf } from '../nodes/definitions'
import { forget } from './backdrops'
import { childNamed, element, findElement, inputOf, isNode, nameOf, type Element } from './document'
import { formatValue, wireBetween } from '../nodes/types'

export class EditError extends Error {}

/** Path of the container and name of the last part. */
export function splitPath(path: string): [container: string, name: string] {
  const cut = path.lastIndexOf('/')
  return cut < 0 ? ['', path] : [path.slice(0, cut), path.slice(cut + 1)]
}

/** Path of what has a name in a container ('' is the document). */
export const joinPath = (container: string, name: string): string => (container ? `${container}/${name}` : name)

/** Replaces the element at a path ('' is the document itself); `change` may return undefined to remove it. */
export function changeElement(
  document: Element,
  path: string,
  change: (e: Element) => Element | undefined,
): Element {
  if (path === '') return change(document) ?? document
  const [head, ...rest] = path.split('/')
  let found = false
  const children = document.children.flatMap(c => {
    if (found || c.tag === '#comment' || nameOf(c) !== head) return [c]
    found = true
    const changed = rest.length ? changeElement(c, rest.join('/'), change) : change(c)
    return changed ? [changed] : []
  })
  if (!found) throw new EditError(`there is nothing called ${path}`)
  return { ...document, children }
}

/** A name that no sibling has: letters, digits and underscores only, as the standard wants. */
export function freeName(container: Element, wish: string): string {
  const base = wish.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(\d)/, '_$1') || 'node'
  const taken = new Set(container.children.map(nameOf))
  if (!taken.has(base)) return base
  let i = 2
  while (taken.has(base + i)) i++
  return base + i
}

/** Sets an attribute of an element; undefined removes it. */
export function setAttribute(document: Element, path: string, name: string, value: string | undefined): Element {
  return changeElement(document, path, e => {
    const attributes = { ...e.attributes }
    if (value === undefined) delete attributes[name]
    else attributes[name] = value
    return { ...e, attributes }
  })
}

/**
 * Replaces or adds an input element of a node or a group: a new one after the others, before what a group holds.
 */
export function putInput(node: Element, input: Element): Element {
  const name = nameOf(input)
  const there = node.children.some(c => c.tag === 'input' && nameOf(c) === name)
  if (there)
    return { ...node, children: node.children.map(c => (c.tag === 'input' && nameOf(c) === name ? input : c)) }
  const at = node.tag === 'nodegraph' ? node.children.filter(c => c.tag === 'input').length : node.children.length
  return { ...node, children: [...node.children.slice(0, at), input, ...node.children.slice(at)] }
}

/** Attributes of an input that say what drives it. */
const DRIVERS = ['value', 'nodename', 'nodegraph', 'output', 'interfacename']

/**
 * Gives an input a plain value; whatever wire was there goes. Further attributes (unit, colour space) of the input
 * stay.
 */
export function setValue(
  document: Element,
  path: string,
  input: string,
  type: string,
  value: string,
  extra: Record<string, string> = {},
): Element {
  return changeElement(document, path, node => {
    const kept = Object.fromEntries(
      Object.entries(inputOf(node, input)?.attributes ?? {}).filter(([k]) => !DRIVERS.includes(k)),
    )
    return putInput(
      node,
      element('input', { ...kept, name: input, type, value, ...extra }, inputOf(node, input)?.children),
    )
  })
}

/** Removes what drives an input, so that its default stands. */
export function clearInput(document: Element, path: string, input: string): Element {
  return changeElement(document, path, node => ({
    ...node,
    children: node.children.filter(c => !(c.tag === 'input' && nameOf(c) === input)),
  }))
}

/** Definition of a node as it stands. */
export function definitionOf(node: Element): NodeDefinition | undefined {
  const stated = new Map(
    node.children.filter(c => c.tag === 'input').map(c => [nameOf(c), c.attributes.type ?? '']),
  )
  return (
    matchDefinition(node.tag, node.attributes.type ?? '', stated) ??
    definitionsOf(node.tag).find(d => outputTypeOf(d) === node.attributes.type)
  )
}

/** Names of the siblings that feed a node or a group. */
export function feeders(node: Element): string[] {
  return node.children.flatMap(c => {
    const from = c.tag === 'input' ? (c.attributes.nodename ?? c.attributes.nodegraph) : undefined
    return from ? [from] : []
  })
}

/** Whether `from` is fed, however far up, by `by`. */
export function reaches(container: Element, from: string, by: string): boolean {
  const seen = new Set<string>()
  const open = [from]
  while (open.length) {
    const name = open.pop()!
    if (name === by) return true
    if (seen.has(name)) continue
    seen.add(name)
    const node = childNamed(container, name)
    if (node) open.push(...feeders(node))
  }
  return false
}

/** Type that an output of a node gives. */
export function outputType(node: Element, output?: string): string {
  if (node.attributes.type !== 'multioutput') return node.attributes.type ?? ''
  const d = definitionOf(node)
  return d?.outputs.find(o => o.name === (output ?? d.outputs[0]!.name))?.type ?? ''
}

/**
 * Wires a node's output to an input of a sibling. Where the types differ but one can become the other, a visible
 * convert or extract is put between.
 * @throws EditError for a loop, a missing node, or types that do not fit
 */
export function connect(document: Element, from: string, to: string, input: string, output?: string): Element {
  const [container, fromName] = splitPath(from)
  const [other, toName] = splitPath(to)
  if (container !== other) throw new EditError('a wire stays within one graph')
  const scope = container ? findElement(document, container) : document
  const source = scope && childNamed(scope, fromName)
  const target = scope && childNamed(scope, toName)
  if (!scope || !source || !target) throw new EditError('one end of the wire does not exist')
  if (reaches(scope, fromName, toName))
    throw new EditError(`${fromName} is fed by ${toName}: this wire would close a loop`)
  const wanted = definitionOf(target)?.inputs.find(i => i.name === input)?.type
  if (!wanted) throw new EditError(`${toName} has no input ${input}`)
  const given = outputType(source, output)
  const need = wireBetween(given, wanted)
  if (need === 'impossible') throw new EditError(`${fromName} gives ${given}, but ${input} takes ${wanted}`)
  const wire = (name: string, out?: string) =>
    element('input', { name: input, type: wanted, nodename: name, ...(out ? { output: out } : {}) })
  const usedOutput =
    given && source.attributes.type === 'multioutput'
      ? (output ?? definitionOf(source)!.outputs[0]!.name)
      : undefined
  if (need === 'same') return changeElement(document, to, t => putInput(t, wire(fromName, usedOutput)))
  const name = freeName(scope, `${fromName}_${need === 'extract' ? 'component' : 'as_' + wanted}`)
  const between = element(need, { name, type: wanted, ...placeBetween(source, target) }, [
    element('input', {
      name: 'in',
      type: given,
      nodename: fromName,
      ...(usedOutput ? { output: usedOutput } : {}),
    }),
    ...(need === 'extract' ? [element('input', { name: 'index', type: 'integer', value: '0' })] : []),
  ])
  const added = addElement(document, container, between)
  return changeElement(added, to, t => putInput(t, wire(name)))
}

function placeBetween(a: Element, b: Element): Record<string, string> {
  const mid = (k: string) => (Number(a.attributes[k] ?? 0) + Number(b.attributes[k] ?? 0)) / 2
  return { xpos: String(+mid('xpos').toFixed(3)), ypos: String(+(mid('ypos') + 0.4).toFixed(3)) }
}

/** Adds an element at the end of a container ('' is the document), before its materials. */
export function addElement(document: Element, container: string, added: Element): Element {
  return changeElement(document, container, c => {
    const at = c.children.findIndex(e => e.tag === 'surfacematerial' || e.tag === 'output')
    return {
      ...c,
      children: at < 0 ? [...c.children, added] : [...c.children.slice(0, at), added, ...c.children.slice(at)],
    }
  })
}

/**
 * Adds an element at the end of a container under a name that is free there.
 * @param wish name that it has where nothing else has it
 * @returns the new document and the element's path
 */
export function addFresh(
  document: Element,
  container: string,
  wish: string,
  tag: string,
  attributes: Record<string, string>,
  children: Element[] = [],
): { document: Element; path: string } {
  const name = freeName(container ? findElement(document, container)! : document, wish)
  const added = addElement(document, container, element(tag, { name, ...attributes }, children))
  return { document: added, path: joinPath(container, name) }
}

/** Gives an input plain numbers; whatever wire was there goes. */
export const setNumbers = (
  document: Element,
  path: string,
  input: string,
  type: string,
  numbers: readonly number[],
): Element => setValue(document, path, input, type, formatValue(type, numbers))

/** Adds a node of a category and type. @returns the new document and the node's path */
export function addNode(
  document: Element,
  container: string,
  category: string,
  type: string,
  x: number,
  y: number,
): { document: Element; path: string } {
  if (!definitionsOf(category).some(d => outputTypeOf(d) === type))
    throw new EditError(`there is no ${category} that gives ${type}`)
  return addFresh(document, container, category.replace(/^wl_/, ''), category, {
    type,
    xpos: String(x),
    ypos: String(y),
  })
}

/** Removes a node or a group, and the wires from it. */
export function removeNode(document: Element, path: string): Element {
  const [container, name] = splitPath(path)
  const gone = changeElement(document, path, () => undefined)
  const without = container ? gone : forget(gone, new Set([name]))
  return changeElement(without, container, c => ({
    ...c,
    children: c.children.flatMap(e => {
      if (e.tag === 'output' && e.attributes.nodename === name) return []
      return [
        isNode(e) || e.tag === 'nodegraph'
          ? {
              ...e,
              children: e.children.filter(
                i => !(i.tag === 'input' && (i.attributes.nodename ?? i.attributes.nodegraph) === name),
              ),
            }
          : e,
      ]
    }),
  }))
}

/** Removes nodes; those of a group that is among them go with it. */
export const removeNodes = (document: Element, paths: readonly string[]): Element =>
  paths.filter(p => !paths.some(g => p.startsWith(`${g}/`))).reduce(removeNode, document)

/** Points every wire from sibling `from` to sibling `to` instead, where `which` agrees. */
export function rewire(
  document: Element,
  from: string,
  to: string,
  which: (node: Element, input: string) => boolean = () => true,
): Element {
  return {
    ...document,
    children: document.children.map(e =>
      !isNode(e)
        ? e
        : {
            ...e,
            children: e.children.map(i =>
              i.tag === 'input' && i.attributes.nodename === from && which(e, nameOf(i))
                ? { ...i, attributes: { ...i.attributes, nodename: to } }
                : i,
            ),
          },
    ),
  }
}
