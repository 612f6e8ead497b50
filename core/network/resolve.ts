/**
 * Reads a document into a graph of operations: names looked up, definitions matched, defaults filled in,
 * nodegraphs inlined, cycles found. Nothing is thrown for a faulty node: it is replaced by the default of the
 * input it feeds, and the fault is listed. Nodes are read with a list of those under way and not by recursion, so
 * that chains may be as long as they like; what graphs within graphs unfold to is bounded.
 */
import { table } from '../nodes/table'
import { geometricDefault, type InputDefinition, type NodeDefinition } from '../nodes/definition'
import { matchDefinition, outputTypeOf, definitionsOf } from '../nodes/definitions'
import { type Element, inputOf, isNode, nameOf } from './document'
import { isValueType, parseValue, unitScale } from '../nodes/types'

/** Something wrong in a network, and where. */
export interface Fault {
  /** Path of the node, names joined with `/`. */
  where: string
  input?: string
  severity: 'error' | 'warning'
  message: string
}

/** What feeds an input. */
export type Source =
  | {
      kind: 'number'
      type: string
      value: number[]
      colorspace?: string
      /** Nobody said it: it is the definition's default. */ unsaid?: true
    }
  | { kind: 'text'; value: string; colorspace?: string }
  | { kind: 'op'; type: string; op: Op; output: number }
  | { kind: 'none' }

/** One operation of the network. */
export interface Op {
  id: number
  /** Path in the document, or `@name` for a geometric default. */
  path: string
  category: string
  type: string
  definition: NodeDefinition
  inputs: Map<string, Source>
}

interface Scope {
  container: Element
  path: string
  /** Tells apart what the same graph is inlined as, wherever it is. */
  key: string
  outer?: Scope
  instance?: { node: Element; graph: Element; scope: Scope }
}

/** A node under way: which of its inputs is read next. */
interface Frame {
  e: Element
  scope: Scope
  key: string
  path: string
  definition: NodeDefinition
  inputs: Map<string, Source>
  next: number
}

/** Operations that a network may become once its graphs are inlined. */
const MOST_OPS = 20_000
/** Wires in a row that only pass through graphs' inputs and outputs, or through nodes that are switched off. */
const MOST_HOPS = 500

/** A document read from one root. */
export interface Resolved {
  root: Op | undefined
  ops: Op[]
  faults: Fault[]
}

const inSpace = (value: string): [string, Source][] => [['space', { kind: 'text', value }]]
const ofSet = (set: number): [string, Source][] => [['index', { kind: 'number', type: 'integer', value: [set] }]]

/** Geometric properties that stand for an unconnected input: node, type, and what it is asked. */
const GEOMETRY = table<[category: string, type: string, inputs?: [string, Source][]]>({
  Pobject: ['position', 'vector3', inSpace('object')],
  Pworld: ['position', 'vector3', inSpace('world')],
  Nobject: ['normal', 'vector3', inSpace('object')],
  Nworld: ['normal', 'vector3', inSpace('world')],
  Tworld: ['tangent', 'vector3', inSpace('world')],
  Tobject: ['tangent', 'vector3', inSpace('object')],
  Bworld: ['@bitangent', 'vector3'],
  Vworld: ['@viewdirection', 'vector3'],
  UV0: ['texcoord', 'vector2'],
  UV1: ['texcoord', 'vector2', ofSet(1)],
  UV2: ['texcoord', 'vector2', ofSet(2)],
  UV3: ['texcoord', 'vector2', ofSet(3)],
})

/**
 * Resolves a document from a node.
 * @param path node to begin from: `NODE` or `GRAPH/NODE`
 */
export function resolve(document: Element, path: string): Resolved {
  const faults: Fault[] = []
  const ops: Op[] = []
  const known = new Map<string, Op | undefined>()
  const open = new Set<string>()
  const top: Scope = { container: document, path: '', key: '' }
  /** A node that must be read before the input that asks for it. */
  let wanted: { e: Element; scope: Scope } | undefined
  let hops = 0

  const fault = (where: string, message: string, input?: string, severity: Fault['severity'] = 'error') => {
    if (!faults.some(f => f.where === where && f.message === message && f.input === input))
      faults.push({ where, message, severity, ...(input ? { input } : {}) })
  }
  const add = (
    path: string,
    category: string,
    type: string,
    definition: NodeDefinition,
    inputs: Map<string, Source>,
  ): Op => {
    const op = { id: ops.length, path, category, type, definition, inputs }
    ops.push(op)
    return op
  }

  function geometry(name: string): Op | undefined {
    const key = '@' + name
    if (known.has(key)) return known.get(key)
    const [category, type, inputs] = GEOMETRY[name] ?? []
    if (!category || !type) return undefined
    const definition = definitionsOf(category).find(d => outputTypeOf(d) === type) ?? {
      name: category,
      node: category,
      nodegroup: 'geometric',
      inputs: [],
      outputs: [{ name: 'out', type }],
    }
    const op = add(key, category, type, definition, new Map(inputs))
    known.set(key, op)
    return op
  }

  /** The node an element stands for; where it has not been read yet it is wanted, and undefined for now. */
  function node(e: Element, scope: Scope): Op | undefined {
    const key = scope.key + nameOf(e)
    if (known.has(key)) return known.get(key)
    if (open.has(key)) fault(scope.path + nameOf(e), `${nameOf(e)} feeds itself: a wire closes a loop here`)
    else wanted = { e, scope }
    return undefined
  }

  /** Begins to read a node. @returns undefined where there is nothing to read */
  function enter(e: Element, scope: Scope): Frame | undefined {
    const path = scope.path + nameOf(e)
    const key = scope.key + nameOf(e)
    const type = e.attributes.type ?? ''
    const stated = new Map(
      e.children.filter(c => c.tag === 'input').map(c => [nameOf(c), c.attributes.type ?? '']),
    )
    const definition = matchDefinition(e.tag, type, stated)
    if (definition && ops.length + open.size < MOST_OPS) {
      open.add(key)
      return { e, scope, key, path, definition, inputs: new Map(), next: 0 }
    }
    known.set(key, undefined)
    if (definition) fault(path, `the network has more than ${MOST_OPS} nodes once its graphs are opened`)
    else
      fault(
        path,
        definitionsOf(e.tag).length
          ? `no version of ${e.tag} gives ${type || 'nothing'} from inputs of these types`
          : `the node ${e.tag} is not one that Wavelume computes; it is kept in the document`,
      )
    return undefined
  }

  /** Reads a node and all that it needs, inputs first. */
  function read(e: Element, scope: Scope): Op | undefined {
    const first = enter(e, scope)
    const underWay = first ? [first] : []
    while (underWay.length) {
      const f = underWay.at(-1)!
      const input = f.definition.inputs[f.next]
      if (input) {
        const source = inputSource(f.e, input, f.scope, f.path)
        if (wanted) {
          const next = enter(wanted.e, wanted.scope)
          wanted = undefined
          if (next) underWay.push(next)
          continue
        }
        f.inputs.set(input.name, source)
        f.next++
        continue
      }
      known.set(f.key, add(f.path, f.e.tag, f.e.attributes.type ?? '', f.definition, f.inputs))
      open.delete(f.key)
      underWay.pop()
    }
    return known.get(scope.key + nameOf(e))
  }

  function fallback(input: InputDefinition): Source {
    const property = geometricDefault(input)
    if (property !== undefined) {
      const op = geometry(property)
      if (op) return { kind: 'op', type: input.type, op, output: 0 }
    }
    if (isValueType(input.type))
      return {
        kind: 'number',
        type: input.type,
        unsaid: true,
        value:
          parseValue(input.type, input.default || '') ??
          new Array(input.type === 'vector2' ? 2 : /[34]$/.test(input.type) ? +input.type.slice(-1) : 1).fill(0),
      }
    return input.type === 'string' || input.type === 'filename'
      ? { kind: 'text', value: input.default ?? '' }
      : { kind: 'none' }
  }

  function inputSource(e: Element, input: InputDefinition, scope: Scope, path: string): Source {
    const stated = inputOf(e, input.name)
    const source = stated && follow(stated, input, scope, path)
    return source ?? (wanted ? { kind: 'none' } : fallback(input))
  }

  /** What an input element says; undefined where its default must stand in. */
  function follow(e: Element, input: InputDefinition, scope: Scope, path: string): Source | undefined {
    if (hops >= MOST_HOPS) {
      fault(path, `more than ${MOST_HOPS} wires in a row only pass through`, input.name)
      return undefined
    }
    hops++
    const source = followed(e, input, scope, path)
    hops--
    return source
  }

  function followed(e: Element, input: InputDefinition, scope: Scope, path: string): Source | undefined {
    const a = e.attributes
    if (a.interfacename !== undefined) return throughInterface(a.interfacename, input, scope, path)
    if (a.nodegraph !== undefined) {
      const at = outermost(scope)
      const graph = named(at.container, a.nodegraph)
      if (!graph || graph.tag !== 'nodegraph') {
        fault(path, `there is no nodegraph ${a.nodegraph}`, input.name)
        return undefined
      }
      const name = nameOf(graph) + '/'
      return fromGraph(graph, { container: graph, path: name, key: name, outer: at }, a.output, input, path)
    }
    if (a.nodename !== undefined) {
      const target = named(scope.container, a.nodename)
      if (!target || !isNode(target)) {
        fault(path, `there is no node ${a.nodename} for it`, input.name)
        return undefined
      }
      return connect(target, scope, a.output, input, path)
    }
    if (a.value === undefined) return undefined
    return literal(a, input, path)
  }

  function throughInterface(name: string, input: InputDefinition, scope: Scope, path: string): Source | undefined {
    if (scope.instance) {
      const given = inputOf(scope.instance.node, name)
      if (given) return follow(given, input, scope.instance.scope, path)
      const declared = functionDefinition(scope.instance.node)?.children.find(
        c => c.tag === 'input' && nameOf(c) === name,
      )
      const property = declared?.attributes.defaultgeomprop
      const op = property !== undefined ? geometry(property) : undefined
      if (op) return { kind: 'op', type: op.type, op, output: 0 }
      return declared?.attributes.value !== undefined ? literal(declared.attributes, input, path) : undefined
    }
    const own = inputOf(scope.container, name)
    if (!own) {
      fault(path, `the graph has no input ${name}`, input.name)
      return undefined
    }
    return follow(own, input, scope.outer ?? scope, path)
  }

  function literal(a: Record<string, string>, input: InputDefinition, path: string): Source | undefined {
    if (!isValueType(input.type))
      return { kind: 'text', value: a.value!, ...(a.colorspace ? { colorspace: a.colorspace } : {}) }
    const value = parseValue(input.type, a.value!)
    if (!value) {
      fault(path, `"${a.value!.slice(0, 40)}" is not a value of type ${input.type}`, input.name)
      return undefined
    }
    const scale = unitScale(a.unit)
    if (scale === undefined) fault(path, `the unit ${a.unit} is unknown`, input.name, 'warning')
    return {
      kind: 'number',
      type: input.type,
      value: value.map(v => v * (scale ?? 1)),
      ...(a.colorspace ? { colorspace: a.colorspace } : {}),
    }
  }

  /** Input that stands for a node that is switched off: what lies below a layer, or what an adjustment adjusts. */
  const passThrough = (e: Element) =>
    ['bg', 'base', 'in', 'in1']
      .map(n => inputOf(e, n))
      .find(i => i !== undefined && i.attributes.type === e.attributes.type)

  /** Children by name, of each container that was asked. */
  const names = new Map<Element, Map<string, Element>>()
  function named(container: Element, name: string): Element | undefined {
    let byName = names.get(container)
    if (!byName) {
      byName = new Map()
      for (const c of container.children) if (!byName.has(nameOf(c))) byName.set(nameOf(c), c)
      names.set(container, byName)
    }
    return byName.get(name)
  }
  const nodedefs = document.children.filter(c => c.tag === 'nodedef')
  const graphs = document.children.filter(c => c.tag === 'nodegraph' && c.attributes.nodedef)

  /** Document-defined node definition of an instance, if there is one. */
  const functionDefinition = (e: Element) => nodedefs.find(c => c.attributes.node === e.tag)
  const functionGraph = (e: Element) => {
    const definition = functionDefinition(e)
    return definition && graphs.find(c => c.attributes.nodedef === nameOf(definition))
  }

  function connect(
    target: Element,
    scope: Scope,
    output: string | undefined,
    input: InputDefinition,
    path: string,
  ): Source | undefined {
    const graph = definitionsOf(target.tag).length ? undefined : functionGraph(target)
    if (graph) {
      for (let at: Scope | undefined = scope; at?.instance; at = at.instance.scope)
        if (at.instance.graph === graph) {
          fault(path, `${nameOf(target)} feeds itself: a wire closes a loop here`, input.name)
          return undefined
        }
      return fromGraph(
        graph,
        {
          container: graph,
          path: nameOf(graph) + '/',
          key: `${scope.key}${nameOf(target)}>${nameOf(graph)}/`,
          outer: outermost(scope),
          instance: { node: target, graph, scope },
        },
        output,
        input,
        path,
      )
    }
    if (target.attributes.wl_off === 'true') {
      const through = passThrough(target)
      if (through) return follow(through, input, scope, path)
    }
    const op = node(target, scope)
    if (!op) return undefined
    const outputs = op.definition.outputs
    const index = output === undefined ? 0 : outputs.findIndex(o => o.name === output)
    if (index < 0) {
      fault(path, `${nameOf(target)} has no output ${output}`, input.name)
      return undefined
    }
    const type = outputs.length > 1 ? outputs[index]!.type : op.type
    if (type !== input.type) {
      fault(
        path,
        `${nameOf(target)} gives ${type}, but ${input.name} takes ${input.type}: put a convert or extract between them`,
        input.name,
      )
      return undefined
    }
    return { kind: 'op', type, op, output: index }
  }

  function fromGraph(
    graph: Element,
    scope: Scope,
    output: string | undefined,
    input: InputDefinition,
    path: string,
  ): Source | undefined {
    const outputs = graph.children.filter(c => c.tag === 'output')
    const chosen = output === undefined ? outputs[0] : outputs.find(o => nameOf(o) === output)
    if (!chosen) {
      fault(path, `the nodegraph ${nameOf(graph)} has no output ${output ?? ''}`, input.name)
      return undefined
    }
    return follow(chosen, input, scope, path)
  }

  const outermost = (scope: Scope): Scope => (scope.outer ? outermost(scope.outer) : scope)

  const parts = path.split('/')
  let scope = top
  for (const name of parts.slice(0, -1)) {
    const container = named(scope.container, name)
    if (!container) break
    const inside = scope.path + name + '/'
    scope = { container, path: inside, key: inside, outer: scope }
  }
  const start = named(scope.container, parts.at(-1)!)
  if (!start || !isNode(start)) {
    fault(path, `there is no node ${path}`)
    return { root: undefined, ops, faults }
  }
  return { root: read(start, scope), ops, faults }
}
