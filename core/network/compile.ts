/**
 * Compiles a network to one flat function of a shading point.
 *
 * The generated source holds numbers and identifiers made here and in `nodes/`, never text of a document.
 * Constants live in a buffer: two networks that differ in constants alone give the same source, so dragging a
 * value never recompiles. Where probes are asked for, a first stage `requests` computes their radii; the renderer
 * casts them and puts the results into the point before `shade` runs. Tried: an interpreter over typed arrays (see
 * `benchmark network`); values hoisted to the top of the function instead of into the blocks that use them: 20–35
 * % slower on layered paint, where most points see one layer.
 */
import { nodeEntry } from '../nodes'
import { BESIDE } from '../nodes/relief'
import { EmitFault, type EmitContext } from '../nodes/emit'
import { createBlock, noteUse, placeValues, writeBlock, type Block } from './blocks'
import { createChunkWriter } from './chunks'
import type { ClosureCompiler } from './closure-compiler'
import { emitClosures } from './closures'
import type { Element } from './document'
import { resolve, type Fault, type Op, type Source } from './resolve'
import { MAX_PROBES } from '../point/slots'
import { toWorkingSpace } from './texture'
import { COMPONENTS, isValueType, parseValue } from '../nodes/types'

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
  probes: ('convex' | 'concave' | 'both')[]
  /** Number of components of the value when the root gives numbers; 0 for a surface. */
  size: number
  faults: Fault[]
  /** Which constant is the time in seconds, where the network asks for it. */
  timeAt?: number
  /** Whether shadow rays pass the material straight (attribute `wl_straight_shadows` of the surfacematerial). */
  straight?: boolean
}

export interface CompileOptions {
  /** Writes constants into the source; faster by a fifth for long renders. Default false. */
  bake?: boolean
}

/** How deep reliefs of reliefs are computed; and how many functions they may become. */
const MOST_NESTED = 4
const MOST_RELIEFS = 256
/** Surfaces, scatterings and emissions that a material may unfold to, mixes and sums counted. */
const MOST_CLOSURES = 1024

/** A program at a time, seconds: itself where it does not ask for any. */
export const atTime = (p: Program, seconds: number): Program =>
  p.timeAt === undefined ? p : { ...p, constants: p.constants.map((x, i) => (i === p.timeAt ? seconds : x)) }

/**
 * Compiles the network that ends in the node at `path` (a material, a surface, or any node that gives numbers).
 */
export function compileNetwork(document: Element, path: string, options: CompileOptions = {}): Program {
  const { root, ops, faults } = resolve(document, path)
  const constants: number[] = []
  const slots: ConstantSlot[] = []
  const images: ImageReference[] = []
  const probes: Program['probes'] = []
  const documentSpace = document.attributes.colorspace
  const uses = new Map<Op, Block>()
  const probeOf = new Map<Op, number>()
  const functions: string[] = []
  let components = new Map<Op, string[]>()
  const slotOf = new Map<string, number>()
  const broken = new Map<Op, string>()
  /** Nodes of relief whose heights are being written, each within the one before. */
  const reliefs: Op[] = []
  let written = 0
  let serial = 0
  let timeAt: number | undefined
  const unique = (prefix: string) => prefix + serial++
  const fault = (op: Op, message: string, severity: Fault['severity'] = 'error') =>
    faults.push({ where: op.path, severity, message })

  function constant(op: Op, name: string, source: Source & { kind: 'number' }): string[] {
    let value = source.value
    if (source.type.startsWith('color')) value = toWorkingSpace(value, source.colorspace ?? documentSpace)
    if (options.bake) return value.map(v => `(${Number.isFinite(v) ? v : 0})`)
    const key = op.id + ':' + name
    let offset = slotOf.get(key)
    if (offset === undefined) {
      offset = constants.length
      slotOf.set(key, offset)
      constants.push(...value)
      slots.push({ path: op.path, input: name, offset, size: value.length })
    }
    return value.map((_, k) => `C[${offset! + k}]`)
  }

  /** Expressions of what feeds an input; operations must have been emitted. */
  function argument(op: Op, name: string): string[] {
    const source = op.inputs.get(name)
    const size = COMPONENTS[op.definition.inputs.find(i => i.name === name)?.type ?? ''] ?? 1
    if (!source || source.kind === 'none' || source.kind === 'text') return new Array(size).fill('0')
    if (source.kind === 'number') return constant(op, name, source)
    return outputOf(source)
  }

  function outputOf(source: Source & { kind: 'op' }): string[] {
    const all = components.get(source.op)
    if (!all) return new Array(COMPONENTS[source.type] ?? 1).fill('0')
    return source.op.definition.outputs.length > 1 ? [all[source.output] ?? '0'] : all
  }

  /**
   * Operations that feed an operation, inputs first.
   * @param through which of its own inputs count
   * @param heights whether those of reliefs among them count, which are written apart
   */
  function feeders(op: Op, through: (input: string) => boolean = () => true, heights = false): Op[] {
    const found = new Set<Op>()
    const waiting = [op]
    while (waiting.length) {
      const o = waiting.pop()!
      for (const [input, source] of o.inputs)
        if (
          source.kind === 'op' &&
          !found.has(source.op) &&
          (o === op ? through(input) : heights || !BESIDE[o.category]?.includes(input))
        ) {
          found.add(source.op)
          waiting.push(source.op)
        }
    }
    return [...found].sort((a, b) => a.id - b.id)
  }

  const chunks = createChunkWriter(ops, root, {
    emit: emitValue,
    components: () => components,
    addFunction: lines => void functions.push(...lines),
    unique,
  })

  function context(op: Op, lines: string[]): EmitContext {
    const input = (name: string) => op.definition.inputs.find(i => i.name === name)
    const local = (expression: string) => {
      const id = unique('v')
      lines.push(`const ${id} = ${expression};`)
      return id
    }
    return {
      type: op.type,
      size: op.type === 'multioutput' ? op.definition.outputs.length : (COMPONENTS[op.type] ?? 1),
      local,
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
      line: statement => void lines.push(statement),
      image: (name, colour) => {
        const s = op.inputs.get(name)
        const file = s?.kind === 'text' ? s.value : ''
        if (!file) faults.push({ where: op.path, input: name, severity: 'warning', message: 'no image is chosen' })
        const colorspace = colour ? (s?.kind === 'text' && s.colorspace) || documentSpace || 'lin_rec709' : 'raw'
        let index = images.findIndex(i => i.file === file && i.colorspace === colorspace)
        if (index < 0) index = images.push({ file, colorspace, colour }) - 1
        return `I[${index}]`
      },
      beside: inputs => beside(op, inputs, lines),
      warn: message => void fault(op, message, 'warning'),
      time: () => `C[${(timeAt ??= constants.push(0) - 1)}]`,
      probe: (_radius, side) => {
        const known = probeOf.get(op)
        if (known !== undefined) return known
        if (probes.length >= MAX_PROBES)
          throw new EmitFault(`at most ${MAX_PROBES} curvature nodes work in one material`)
        probeOf.set(op, probes.push(side) - 1)
        return probes.length - 1
      },
    }
  }

  /**
   * A function of the point that computes single numbers from all that feeds them, called at the point and at two
   * beside it.
   */
  function beside(
    op: Op,
    inputs: readonly (readonly [string, number])[],
    lines: string[],
  ): ReturnType<EmitContext['beside']> {
    if (reliefs.length >= MOST_NESTED)
      throw new EmitFault(`relief of relief is computed ${MOST_NESTED} deep: each asks the one below three times`)
    if (written++ >= MOST_RELIEFS)
      throw new EmitFault(`more than ${MOST_RELIEFS} reliefs, each within each other, are not computed`)
    reliefs.push(op)
    const outer = components
    const body: string[] = []
    const name = unique('f')
    const scratch = unique('x')
    components = new Map()
    const heights = new Set(inputs.map(i => i[0]))
    chunks.write(
      feeders(op, name => heights.has(name)),
      body,
    )
    inputs.forEach(([input, k], i) => body.push(`result[${i}] = ${argument(op, input)[k] ?? '0'};`))
    components = outer
    reliefs.pop()
    functions.push(
      `const ${scratch} = new Float64Array(stride);`,
      `function ${name}(S, C, I) {`,
      ...body.map(l => '  ' + l),
      '}',
    )
    const step = (axis: number) => {
      const id = unique('v')
      lines.push(`const ${id} = beside(S, ${scratch}, ${axis});`)
      return id
    }
    const values = inputs.map(() => ['', '', ''] as [string, string, string])
    const call = (at: number, point: string) => {
      lines.push(`${name}(${point}, C, I);`)
      values.forEach((v, i) => {
        v[at] = unique('v')
        lines.push(`const ${v[at]} = result[${i}];`)
      })
    }
    call(0, 'S')
    const du = step(0)
    call(1, scratch)
    const dv = step(1)
    call(2, scratch)
    return { values, du, dv }
  }

  function emitValue(op: Op, lines: string[]): void {
    if (components.has(op)) return
    const emit = nodeEntry(op.category)?.emit
    const size = op.type === 'multioutput' ? op.definition.outputs.length : (COMPONENTS[op.type] ?? 1)
    const reason =
      broken.get(op) ?? (emit ? undefined : `the node ${op.category} gives ${op.type}, which is not computed`)
    if (reason === undefined) {
      const before = lines.length
      try {
        const result = emit!(context(op, lines)).map(e =>
          /^[A-Za-z]\w*(\[\d+\])?$|^\d+$/.test(e)
            ? e
            : (() => {
                const id = unique('v')
                lines.push(`const ${id} = ${e};`)
                return id
              })(),
        )
        components.set(op, result)
        return
      } catch (e) {
        if (!(e instanceof EmitFault)) throw e
        lines.length = before
        fault(op, e.message)
        broken.set(op, e.message)
      }
    } else if (!broken.has(op)) {
      fault(op, reason)
      broken.set(op, reason)
    }
    components.set(op, new Array(size).fill('0'))
  }

  // Stage two: shade.
  let closures = 0
  let refused = false
  const main = createBlock(null)
  const compiler: ClosureCompiler = {
    arg: (op, name, block) => {
      const source = op.inputs.get(name)
      if (source?.kind === 'op') noteUse(uses, source.op, block)
      // the expressions exist only after the values have been written: leave a mark
      const size = source?.kind === 'op' || source?.kind === 'number' ? (COMPONENTS[source.type] ?? 1) : 1
      return Array.from({ length: size }, (_, k) => `@${op.id}:${name}:${k}@`)
    },
    text: (op, name) => {
      const s = op.inputs.get(name)
      return s?.kind === 'text' ? s.value : ''
    },
    untouched: (op, name) => {
      const s = op.inputs.get(name)
      const d = op.definition.inputs.find(i => i.name === name)?.default ?? ''
      return (
        !s ||
        s.kind === 'none' ||
        (s.kind === 'number' &&
          (d === ''
            ? s.value.every(v => v === 0)
            : parseValue(s.type, d)?.every((v, k) => v === s.value[k]) === true))
      )
    },
    mentions: (op, name) => {
      const s = op.inputs.get(name)
      return (
        s !== undefined &&
        s.kind !== 'none' &&
        !(s.kind === 'number' && s.unsaid) &&
        !(s.kind === 'op' && s.op.path.startsWith('@'))
      )
    },
    unique,
    fault,
    afford: op => {
      if (closures < MOST_CLOSURES) {
        closures++
        return true
      }
      if (!refused)
        fault(op, `the material unfolds to more than ${MOST_CLOSURES} pieces of scattering and light here`)
      refused = true
      return false
    },
  }
  const size =
    root && (isValueType(root.type) || root.type === 'multioutput')
      ? (COMPONENTS[root.type] ?? root.definition.outputs.length)
      : 0
  if (root) {
    if (size > 0) noteUse(uses, root, main)
    else emitClosures(root, main, compiler)
  }
  placeValues(
    ops.filter(o => isValueType(o.type) || o.type === 'multioutput'),
    uses,
    (op, input) => BESIDE[op.category]?.includes(input) === true,
  )
  let lines = writeBlock(main, chunks.write)
  const fill = (line: string) =>
    line.replace(/@(\d+):(\w+):(\d+)@/g, (_, id, name, k) => argument(ops[+id]!, name)[+k] ?? '0')
  lines = lines.map(fill)
  let value: string[] = []
  if (root && size > 0) {
    const c = components.get(root)!
    value = [...lines, ...c.map((e, k) => `result[${k}] = ${e};`)]
    lines = [
      ...lines,
      c.length >= 3
        ? `tap(${c[0]}, ${c[1]}, ${c[2]});`
        : c.length === 2
          ? `tap(${c[0]}, ${c[1]}, 0);`
          : `tap(${c[0]}, ${c[0]}, ${c[0]});`,
    ]
  }

  // Stage one: radii of the probes, in the order in which stage two reads them.
  const requests: string[] = []
  if (probes.length) {
    const curvatures = [...probeOf.keys()]
    components = new Map()
    for (const op of curvatures)
      for (const o of feeders(op, undefined, true))
        if (o.category === 'wl_curvature') {
          fault(op, 'the radius of a curvature cannot depend on another curvature')
          broken.set(op, 'nested')
          components.set(o, ['0'])
        }
    curvatures.forEach((op, slot) => {
      chunks.write(feeders(op), requests)
      requests.push(`R[${slot}] = ${argument(op, 'radius')[0]};`)
    })
  }
  const body = (l: string[]) => l.map(x => '  ' + x).join('\n')
  const source = [
    ...chunks.declaration(),
    ...functions,
    `function requests(S, C, I, R) {\n${body(requests)}\n}`,
    `function shade(S, C, I) {\n${body(lines)}\n}`,
    `function value(S, C, I) {\n${body(value)}\n}`,
  ].join('\n')
  return { source, constants, slots, images, probes, size, faults, ...(timeAt === undefined ? {} : { timeAt }) }
}
