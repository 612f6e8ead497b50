/**
 * Compiles a network to functions of a shading point.
 *
 * Nodes become expressions (`core/expression`), closures statements that use them; `expression/print.ts` writes both
 * as JavaScript. The source holds numbers and identifiers made there and in `nodes/`, never text of a document.
 * Constants live in a buffer: two networks that differ in constants alone give the same source, so dragging a
 * value never recompiles. Where fields are asked for, a first stage `requests` computes their radii; the renderer
 * finds them and puts them into the point before `shade` runs. Tried: an interpreter over typed arrays (see
 * `benchmark network`); values hoisted to the top of the function instead of into the blocks that use them: 20–35
 * % slower on layered paint, where most points see one layer.
 */
import { createBlock, type Statement } from '../expression/block'
import { createChanges } from '../expression/change'
import { beside, constant, number, parts, picture, point, type Expression } from '../expression/expression'
import { createPrinter } from '../expression/print'
import { createSharing, type Shared } from '../expression/share'
import { toWorkingSpace } from '../maps/colour-spaces'
import { nodeEntry } from '../nodes'
import { EmitFault, type EmitContext } from '../nodes/emit'
import { moving } from '../nodes/functions'
import { DISPLACEMENT, isValueType, numbersOf } from '../nodes/types'
import type { FieldAsk } from '../point/field-ask'
import { isFootprint } from '../point/footprint'
import { MAX_FIELDS, POINT } from '../point/slots'
import { createClosureCompiler, run } from './closure-compiler'
import { emitClosures } from './closures'
import type { Element } from './document'
import { resolve, type Fault, type Op, type Source } from './resolve'

/** An image a network reads. */
export interface ImageReference {
  file: string
  colorspace: string
  colour: boolean
}
/** Where a constant of the document stands in the buffer. */
export interface ConstantSlot {
  path: string
  input: string
  offset: number
  size: number
}

/** A compiled network. Plain data: it can be sent to a worker, which makes functions of it with `instantiate`. */
export interface Program {
  source: string
  constants: number[]
  slots: ConstantSlot[]
  images: ImageReference[]
  /** What it asks of the shape around a point. */
  fields: FieldAsk[]
  /** Number of components of the value when the root gives numbers; 0 for a surface. */
  size: number
  faults: Fault[]
  /** Which constant is the time in seconds, where the network asks for it. */
  timeAt?: number
  /** Whether shadow rays pass the material straight (attribute `wl_straight_shadows` of the surfacematerial). */
  straight?: boolean
  /** Whether it may have openings, which shadow rays pass by themselves. */
  opens?: boolean
  /** How far its surface is moved before it is traced (`displacement.ts`). */
  displacement?: Program
}

/** Images that a program and its displacement read, those of the displacement last. */
export const imagesOf = (p: Program): ImageReference[] => [...p.images, ...(p.displacement?.images ?? [])]

export interface CompileOptions {
  /** Writes constants into the source; faster by a fifth for long renders. Default false. */
  bake?: boolean
}

/** How deep reliefs of reliefs are computed; and how often heights may be asked for a point in all. */
const MOST_NESTED = 4
const MOST_HEIGHTS = 768

/** A program at a time, seconds: itself where it does not ask for any. */
export function atTime(p: Program, seconds: number): Program {
  const displacement = p.displacement && atTime(p.displacement, seconds)
  if (p.timeAt === undefined && displacement === p.displacement) return p
  return {
    ...p,
    constants: p.constants.map((x, i) => (i === p.timeAt ? seconds : x)),
    ...(displacement ? { displacement } : {}),
  }
}

/**
 * Compiles the network that ends in the node at `path` (a material, a surface, or any node that gives numbers).
 */
export function compileNetwork(document: Element, path: string, options: CompileOptions = {}): Program {
  const { root, faults } = resolve(document, path)
  const constants: number[] = []
  const slots: ConstantSlot[] = []
  const images: ImageReference[] = []
  const fields: FieldAsk[] = []
  const documentSpace = document.attributes.colorspace
  const sharing = createSharing()
  const changes = createChanges(sharing, moving)
  const components = new Map<Op, Shared[]>()
  const fieldOf = new Map<Op, number>()
  const slotOf = new Map<string, number>()
  const heightsOf = new Map<Shared, number>()
  let timeAt: number | undefined
  const fault = (op: Op, message: string, severity: Fault['severity'] = 'error') =>
    faults.push({ where: op.path, severity, message })

  function constantsOf(op: Op, name: string, source: Source & { kind: 'number' }): Expression[] {
    let value = source.value
    if (source.type.startsWith('color')) value = toWorkingSpace(value, source.colorspace ?? documentSpace)
    if (options.bake) return value.map(v => number(Number.isFinite(v) ? v : 0))
    const key = op.id + ':' + name
    let offset = slotOf.get(key)
    if (offset === undefined) {
      offset = constants.length
      slotOf.set(key, offset)
      constants.push(...value)
      slots.push({ path: op.path, input: name, offset, size: value.length })
    }
    return value.map((_, k) => constant(offset + k))
  }

  const sizeOf = (op: Op): number =>
    op.type === 'multioutput' ? op.definition.outputs.length : numbersOf(op.type)
  const nothing = (size: number): Expression[] => new Array<Expression>(size).fill(number(0))

  /** Components of what feeds an input. */
  function argument(op: Op, name: string): Expression[] {
    const source = op.inputs.get(name)
    if (!source || source.kind === 'none' || source.kind === 'text')
      return nothing(numbersOf(op.definition.inputs.find(i => i.name === name)?.type ?? ''))
    if (source.kind === 'number') return constantsOf(op, name, source)
    const all = componentsOf(source.op)
    return source.op.definition.outputs.length > 1 ? [all[source.output] ?? number(0)] : all
  }

  /** Components of an operation; those of all that feed it are found first. */
  function componentsOf(op: Op): Shared[] {
    if (!components.has(op))
      for (const one of withFeeders(op, o => components.has(o))) components.set(one, emit(one).map(sharing.share))
    return components.get(op)!
  }

  function emit(op: Op): Expression[] {
    const entry = nodeEntry(op.category)
    if (!entry) fault(op, `the node ${op.category} gives ${op.type}, which is not computed`)
    else
      try {
        return entry.emit(context(op))
      } catch (e) {
        if (!(e instanceof EmitFault)) throw e
        fault(op, e.message)
      }
    return nothing(sizeOf(op))
  }

  function context(op: Op): EmitContext {
    const input = (name: string) => op.definition.inputs.find(i => i.name === name)
    return {
      type: op.type,
      size: sizeOf(op),
      arg: name => argument(op, name),
      typeOf: name => input(name)?.type ?? '',
      text: name => {
        const s = op.inputs.get(name)
        return s?.kind === 'text' ? s.value : (input(name)?.default ?? '')
      },
      fixed: name => {
        const s = op.inputs.get(name)
        if (s?.kind === 'op') throw new EmitFault(`${name} must be a plain value, not a wire`)
        return s?.kind === 'number' ? s.value[0]! : 0
      },
      picture: (name, colour) => pictureOf(op, name, colour),
      change: value => {
        const e = sharing.share(value)
        return [changes.of(e, 0), changes.of(e, 1)]
      },
      beside: inputs => besideOf(inputs.map(([name, k]) => argument(op, name)[k] ?? number(0))),
      warn: message => void fault(op, message, 'warning'),
      time: () => constant((timeAt ??= constants.push(0) - 1)),
      field: (name, side) => {
        const slot = fieldOf.get(op) ?? fields.length
        if (slot >= MAX_FIELDS)
          throw new EmitFault(`at most ${MAX_FIELDS} nodes of one material may ask for the shape around a point`)
        if (slot === fields.length) fieldOf.set(op, fields.push({ field: name, side }) - 1)
        return point(POINT.field + slot)
      },
    }
  }

  function pictureOf(op: Op, name: string, colour: boolean): Expression {
    const s = op.inputs.get(name)
    const file = s?.kind === 'text' ? s.value : ''
    if (!file) faults.push({ where: op.path, input: name, severity: 'warning', message: 'no image is chosen' })
    const colorspace = colour ? (s?.kind === 'text' && s.colorspace) || documentSpace || 'lin_rec709' : 'raw'
    const index = images.findIndex(i => i.file === file && i.colorspace === colorspace)
    return picture(index < 0 ? images.push({ file, colorspace, colour }) - 1 : index)
  }

  /** How often heights are asked for a point, by what an expression is made of. */
  function heightsIn(values: readonly Shared[]): number {
    const seen = new Set<Shared>(values)
    const waiting = [...values]
    let count = 0
    while (waiting.length) {
      const e = waiting.pop()!
      if (e.reliefs === 0) continue
      if (e.operation === 'beside') count += heightsOf.get(e)!
      else
        for (const o of e.operands)
          if (!seen.has(o)) {
            seen.add(o)
            waiting.push(o)
          }
    }
    return count
  }

  function besideOf(values: readonly Expression[]): ReturnType<EmitContext['beside']> {
    const asked = sharing.share(beside(values))
    if (asked.reliefs > MOST_NESTED)
      throw new EmitFault(`relief of relief is computed ${MOST_NESTED} deep: each asks the one below three times`)
    const heights = 3 * (1 + heightsIn(asked.operands))
    if (heights > MOST_HEIGHTS)
      throw new EmitFault(`reliefs within each other would ask for more than ${MOST_HEIGHTS} heights a point`)
    heightsOf.set(asked, heights)
    const all = parts(asked, 3 * values.length + 2)
    return {
      values: values.map((_, i) => all.slice(3 * i, 3 * i + 3) as [Expression, Expression, Expression]),
      du: all.at(-2)!,
      dv: all.at(-1)!,
    }
  }

  /** A displacement beside the point; nothing where reliefs within it go too deep. */
  function slopesOf(op: Op, all: readonly Shared[]): Statement[] {
    try {
      const { values, du, dv } = besideOf(all)
      return [{ kind: 'store', into: 'slopes', at: 0, values: [...values.flat(), du, dv] }]
    } catch (e) {
      if (!(e instanceof EmitFault)) throw e
      fault(op, `what is finer than the triangles is left out: ${e.message}`, 'warning')
      return []
    }
  }

  const bodies = {
    requests: createBlock(),
    shade: createBlock(),
    light: createBlock(),
    passage: createBlock(),
    value: createBlock(),
    slopes: createBlock(),
  }
  const size = root && (isValueType(root.type) || GIVES_NUMBERS.has(root.type)) ? sizeOf(root) : 0
  if (root && size > 0) {
    const all = componentsOf(root)
    bodies.value.items.push({ kind: 'store', into: 'result', at: 0, values: all })
    run(bodies.shade, 'tap', shownAs(all))
    run(bodies.light, 'tap', shownAs(all))
    if (root.type === DISPLACEMENT) bodies.slopes.items.push(...slopesOf(root, all))
  } else if (root) {
    emitClosures(root, bodies.shade, createClosureCompiler('all', argument, fault))
    // what is wrong was said of the whole already
    const silent = () => undefined
    if (sendsOut(root)) emitClosures(root, bodies.light, createClosureCompiler('light', argument, silent))
    emitClosures(root, bodies.passage, createClosureCompiler('passage', argument, silent))
  }
  // Stage one: radii of the fields, in the order in which stage two reads them.
  for (const [op, at] of fieldOf) {
    const nested = withFeeders(op).some(o => o !== op && fieldOf.has(o))
    if (nested) fault(op, `the radius of ${op.category} cannot depend on the shape around the point`)
    const radius = nested ? number(0) : argument(op, 'radius')[0]!
    bodies.requests.items.push({ kind: 'store', into: 'radii', at, values: [radius] })
  }
  const printer = createPrinter(sharing)
  const first = sharing.all.some(e => e.operation === 'point' && isFootprint(e.at)) ? ['layFootprint'] : []
  for (const [name, body] of Object.entries(bodies))
    printer.write(name, name === 'requests' ? ['R'] : [], body, first)
  return {
    source: printer.source(),
    constants,
    slots,
    images,
    fields,
    size,
    faults,
    ...(timeAt === undefined ? {} : { timeAt }),
    ...(root && size === 0 && hasOpenings(root) ? { opens: true } : {}),
  }
}

/** Types of roots beside those of values that give numbers. */
const GIVES_NUMBERS: ReadonlySet<string> = new Set(['multioutput', DISPLACEMENT])

/** An operation and all that feed it, inputs first. @param known which need not be looked into */
function withFeeders(op: Op, known: (op: Op) => boolean = () => false): Op[] {
  const found = new Set([op])
  const waiting = [op]
  while (waiting.length)
    for (const source of waiting.pop()!.inputs.values())
      if (source.kind === 'op' && !found.has(source.op) && !known(source.op)) {
        found.add(source.op)
        waiting.push(source.op)
      }
  return [...found].sort((a, b) => a.id - b.id)
}

/** Whether a material, or what it is made of, may send light out. */
const sendsOut = (root: Op): boolean =>
  withFeeders(root).some(
    op => op.type === 'EDF' || op.category === 'surface_unlit' || isSaid(op.inputs.get('emission_luminance')),
  )
/** Whether a material, or what it is made of, may let light pass straight: by what has an opacity that is said. */
const hasOpenings = (root: Op): boolean =>
  withFeeders(root).some(op => OPENINGS.some(name => isSaid(op.inputs.get(name))))
const OPENINGS = ['geometry_opacity', 'opacity', 'transmission']
const isSaid = (s: Source | undefined): boolean => s?.kind === 'op' || (s?.kind === 'number' && !s.unsaid)

/** What a tap on a node shows: two numbers as red and green, one as grey. */
const shownAs = (all: readonly Expression[]): Expression[] =>
  all.length >= 3 ? all.slice(0, 3) : all.length === 2 ? [...all, number(0)] : [all[0]!, all[0]!, all[0]!]
