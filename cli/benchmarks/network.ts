import { addNode, connect, setValue } from '../../core/network/edit'
import { emptyDocument, type Element } from '../../core/network/document'
import { compileNetwork } from '../../core/network/compile'
import { instantiate } from '../../core/network/instantiate'
import { noise3 } from '../../core/nodes/noise'
import { resolve, type Op } from '../../core/network/resolve'
import { memory } from '../../core/nodes/memory'
import { POINT, POINT_STRIDE } from '../../core/point/slots'
import { readMtlx } from '../../core/formats/mtlx/mtlx'
import type { Benchmark } from '../command'

const { result } = memory

/**
 * A network of 100 nodes as masks are built: four branches, each a noise of its own scale through twenty-two
 * adjustments and sums that also take from the branch before, mixed at the end.
 */
function network(): { document: Element; root: string } {
  let document = emptyDocument()
  const add = (
    kind: string,
    type: string,
    wires: [string, string | undefined][],
    values: [string, string, string][] = [],
  ): string => {
    const p = addNode(document, '', kind, type, 0, 0)
    document = p.document
    for (const [input, from] of wires) if (from !== undefined) document = connect(document, from, p.path, input)
    for (const [input, t, v] of values) document = setValue(document, p.path, input, t, v)
    return p.path
  }
  const kinds = [
    'multiply',
    'add',
    'smoothstep',
    'mix',
    'subtract',
    'remap',
    'clamp',
    'contrast',
    'invert',
    'power',
    'modulo',
  ]
  const position = add('position', 'vector3', [])
  let before: string[] = []
  const ends: string[] = []
  for (let branch = 0; branch < 4; branch++) {
    const scaled = add(
      'multiply',
      'vector3',
      [['in1', position]],
      [['in2', 'vector3', `${branch + 1}, ${branch * 2 + 1.5}, 3`]],
    )
    const values = [add('noise3d', 'float', [['position', scaled]])]
    for (let i = 0; i < 22; i++) {
      const kind = kinds[i % kinds.length]!
      const last = values.at(-1)!
      const other = before[i] ?? values[Math.max(0, values.length - 4)]
      const two: Record<string, [string, string | undefined][]> = {
        multiply: [
          ['in1', last],
          ['in2', other],
        ],
        add: [
          ['in1', last],
          ['in2', other],
        ],
        subtract: [
          ['in1', last],
          ['in2', other],
        ],
        mix: [
          ['fg', last],
          ['bg', other],
          ['mix', values[0]],
        ],
        power: [['in1', last]],
        modulo: [['in1', last]],
      }
      const set: Record<string, [string, string, string][]> = {
        remap: [
          ['inlow', 'float', '-1'],
          ['inhigh', 'float', '2'],
          ['outlow', 'float', '0.1'],
          ['outhigh', 'float', '0.9'],
        ],
        power: [['in2', 'float', '1.1']],
        modulo: [['in2', 'float', '0.7']],
      }
      values.push(add(kind, 'float', two[kind] ?? [['in', last]], set[kind]))
    }
    before = values.slice(1)
    ends.push(values.at(-1)!)
  }
  const first = add('mix', 'float', [
    ['fg', ends[0]],
    ['bg', ends[1]],
    ['mix', ends[2]],
  ])
  const second = add('mix', 'float', [
    ['fg', first],
    ['bg', ends[3]],
    ['mix', ends[0]],
  ])
  const root = add('add', 'float', [
    ['in1', second],
    ['in2', first],
  ])
  return { document, root }
}

/** Noises and adjustments in a row, each also taking from one twenty before. @param count of nodes, about */
function row(count: number): { document: Element; root: string } {
  const wire = (name: string, from: string) => `<input name="${name}" type="float" nodename="${from}"/>`
  const nodes = Array.from({ length: count - 1 }, (_, i) => {
    const before = `n${i}`
    const far = `n${Math.max(0, i - 20)}`
    if (i % 12 === 11)
      return `<combine2 name="c${i}" type="vector2">${wire('in1', before)}${wire('in2', far)}</combine2>
        <noise2d name="n${i + 1}" type="float">
          <input name="texcoord" type="vector2" nodename="c${i}"/>
        </noise2d>`
    if (i % 3 === 0)
      return `<mix name="n${i + 1}" type="float">${wire('fg', before)}${wire('bg', far)}${wire('mix', 'n0')}</mix>`
    if (i % 3 === 1) return `<smoothstep name="n${i + 1}" type="float">${wire('in', before)}</smoothstep>`
    return `<add name="n${i + 1}" type="float">${wire('in1', before)}${wire('in2', far)}</add>`
  })
  return {
    document: readMtlx(`<materialx version="1.39"><noise2d name="n0" type="float"/>${nodes.join('')}</materialx>`),
    root: `n${count - 1}`,
  }
}

/** Time of a point, µs, and of compiling, ms, as networks grow. */
function growth(): Record<string, { microseconds: number; nanosecondsANode: number; compileMs: number }> {
  const out: ReturnType<typeof growth> = {}
  for (const count of [100, 300, 600, 1000, 3000]) {
    const { document, root } = row(count)
    let compileMs = Infinity
    for (let i = 0; i < 3; i++) {
      const t = performance.now()
      compileNetwork(document, root)
      compileMs = Math.min(compileMs, performance.now() - t)
    }
    const program = compileNetwork(document, root)
    const shader = instantiate(program, [])
    const C = Float64Array.from(program.constants)
    const S = new Float64Array(POINT_STRIDE)
    const N = Math.round(3e6 / count)
    let best = Infinity
    for (let round = 0; round < 8; round++) {
      const t = performance.now()
      for (let i = 0; i < N; i++) {
        S[POINT.uv] = (i * 0.00137) % 7
        S[POINT.uv + 1] = (i * 0.00311) % 5
        shader.value(S, C, shader.images)
      }
      best = Math.min(best, ((performance.now() - t) / N) * 1000)
    }
    out[count] = {
      microseconds: +best.toFixed(2),
      nanosecondsANode: +((best * 1000) / count).toFixed(2),
      compileMs: +compileMs.toFixed(1),
    }
  }
  return out
}

/** The peer: the same operations over flat typed arrays, one switch an operation. */
function interpreter(ops: Op[]) {
  const code: number[] = []
  const registers = new Float64Array(4096)
  let used = 0
  const at = new Map<Op, number>()
  const place = (values: readonly number[]) => {
    registers.set(values, used)
    used += values.length
    return used - values.length
  }
  const CODES = [
    'multiply',
    'add',
    'smoothstep',
    'mix',
    'subtract',
    'remap',
    'clamp',
    'contrast',
    'invert',
    'power',
    'modulo',
    'noise3d',
    'position',
    'multiply vector3',
  ]
  for (const op of ops) {
    const out = place(op.type === 'vector3' ? [0, 0, 0] : [0])
    at.set(op, out)
    const arg = (n: string) => {
      const s = op.inputs.get(n)
      return s?.kind === 'op' ? at.get(s.op)! : s?.kind === 'number' ? place(s.value) : place([0])
    }
    const names: Record<string, string[]> = {
      multiply: ['in1', 'in2'],
      add: ['in1', 'in2'],
      subtract: ['in1', 'in2'],
      power: ['in1', 'in2'],
      modulo: ['in1', 'in2'],
      smoothstep: ['in', 'low', 'high'],
      mix: ['fg', 'bg', 'mix'],
      remap: ['in', 'inlow', 'inhigh', 'outlow', 'outhigh'],
      clamp: ['in', 'low', 'high'],
      contrast: ['in', 'amount', 'pivot'],
      invert: ['in', 'amount'],
      noise3d: ['amplitude', 'pivot', 'position'],
      position: [],
    }
    const args = (names[op.category] ?? []).map(arg)
    while (args.length < 5) args.push(0)
    code.push(
      CODES.indexOf(op.category === 'multiply' && op.type === 'vector3' ? 'multiply vector3' : op.category),
      out,
      ...args,
    )
  }
  const program = Int32Array.from(code)
  const r = registers
  const run = (S: Float64Array): number => {
    let out = 0
    for (let p = 0; p < program.length; p += 7) {
      out = program[p + 1]!
      const a = program[p + 2]!
      const b = program[p + 3]!
      const c = program[p + 4]!
      const d = program[p + 5]!
      const e = program[p + 6]!
      switch (program[p]) {
        case 0:
          r[out] = r[a]! * r[b]!
          break
        case 1:
          r[out] = r[a]! + r[b]!
          break
        case 2: {
          const x = r[a]!
          const lo = r[b]!
          const hi = r[c]!
          if (x <= lo) r[out] = 0
          else if (x >= hi) r[out] = 1
          else {
            const t = (x - lo) / (hi - lo)
            r[out] = t * t * (3 - 2 * t)
          }
          break
        }
        case 3:
          r[out] = r[b]! + (r[a]! - r[b]!) * r[c]!
          break
        case 4:
          r[out] = r[a]! - r[b]!
          break
        case 5:
          r[out] = r[d]! + ((r[a]! - r[b]!) * (r[e]! - r[d]!)) / (r[c]! - r[b]!)
          break
        case 6:
          r[out] = Math.min(Math.max(r[a]!, r[b]!), r[c]!)
          break
        case 7:
          r[out] = (r[a]! - r[c]!) * r[b]! + r[c]!
          break
        case 8:
          r[out] = r[b]! - r[a]!
          break
        case 9:
          r[out] = r[a]! ** r[b]!
          break
        case 10:
          r[out] = r[a]! - r[b]! * Math.floor(r[a]! / r[b]!)
          break
        case 11:
          r[out] = r[a]! * noise3(r[c]!, r[c + 1]!, r[c + 2]!) + r[b]!
          break
        case 13:
          r[out] = r[a]! * r[b]!
          r[out + 1] = r[a + 1]! * r[b + 1]!
          r[out + 2] = r[a + 2]! * r[b + 2]!
          break
        case 12:
          r[out] = S[POINT.objectPosition]!
          r[out + 1] = S[POINT.objectPosition + 1]!
          r[out + 2] = S[POINT.objectPosition + 2]!
          break
      }
    }
    return r[out]!
  }
  return run
}

/**
 * `benchmark network`: the generated function against an interpreter of the same network, and what compiling
 * costs.
 */
function benchmarkNetwork(): unknown {
  const { document, root } = network()
  const S = new Float64Array(POINT_STRIDE)
  const N = 120_000
  const { ops } = resolve(document, root)
  const run = interpreter(ops)
  let compileMs = Infinity
  let coldMs = 0
  for (let i = 0; i < 20; i++) {
    const t = performance.now()
    const p = compileNetwork(document, root)
    instantiate(p, [])
    const ms = performance.now() - t
    if (i === 0) coldMs = ms
    compileMs = Math.min(compileMs, ms)
  }
  const program = compileNetwork(document, root)
  const shader = instantiate(program, [])
  const C = Float64Array.from(program.constants)
  const time = (work: () => number) => {
    const t = performance.now()
    let s = 0
    for (let i = 0; i < N; i++) {
      S[POINT.objectPosition] = (i * 0.00137) % 7
      S[POINT.objectPosition + 1] = (i * 0.00311) % 5
      S[POINT.objectPosition + 2] = (i * 0.00721) % 3
      s += work()
    }
    return [((performance.now() - t) / N) * 1000, s] as const
  }
  const ratios: number[] = []
  let generated = Infinity
  let interpreted = Infinity
  let difference = 0
  for (let round = 0; round < 7; round++) {
    const [a, sa] = time(() => {
      shader.value(S, C, shader.images)
      return result[0]!
    })
    const [b, sb] = time(() => run(S))
    difference = Math.abs(sa - sb) / Math.max(1, Math.abs(sb))
    if (round > 0) {
      ratios.push(b / a)
      generated = Math.min(generated, a)
      interpreted = Math.min(interpreted, b)
    }
  }
  ratios.sort((a, b) => a - b)
  return {
    nodes: ops.length,
    generatedMicroseconds: +generated.toFixed(3),
    interpretedMicroseconds: +interpreted.toFixed(3),
    ratio: +ratios[ratios.length >> 1]!.toFixed(2),
    relativeDifference: difference,
    compileMs: +compileMs.toFixed(2),
    firstCompileMs: +coldMs.toFixed(2),
    growth: growth(),
    accept: { ratio: 1.5, compileMs: 20, of1000: { microseconds: 25, compileMs: 150 }, growth300to3000: 1.2 },
  }
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkNetwork(),
}
