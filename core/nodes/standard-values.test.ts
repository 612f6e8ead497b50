import { readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compile'
import { element, inputOf, type Element } from '../network/document'
import { instantiate } from '../network/instantiate'
import { readMtlx } from '../formats/mtlx/mtlx'
import { valueAt } from '../testing/setup'
import { definitions } from './definitions'
import { memory } from './memory'

/**
 * Values of the standard's own library (MaterialX 1.39.4: its generated shader source, evaluated outside in single
 * precision) for every definition, in several cases, at four points of the plane from (0, 0, 0) to (1, 1, 0).
 */
interface Row {
  def: string
  output: string
  case: string
  document: string
  /** Components at each point; null where undefined. */
  values: (number | null)[][]
}
const table = JSON.parse(
  gunzipSync(readFileSync(new URL('../testing/node-values.json.gz', import.meta.url))).toString(),
) as { points: [number, number][]; rows: Row[] }

const TOLERANCE = 1e-4
/**
 * What single precision leaves of the coordinates and of sums of a few of them: where a value changes by more than
 * the tolerance within that, the table itself is as uncertain (divisions by nearly nothing).
 */
const ROUNDING = 2 ** -21

/**
 * An exception: coordinates that `place2d` is not given are the part's here, where the standard has the constant
 * 0, 0, on which any picture is one colour (`geometricDefault`; what is exported spells them out). The table's
 * constant is stated.
 */
function statingConstant(e: Element): Element {
  const unsaid = e.tag === 'place2d' && !inputOf(e, 'texcoord')
  const constant = element('input', { name: 'texcoord', type: 'vector2', value: '0, 0' })
  return { ...e, children: [...e.children.map(statingConstant), ...(unsaid ? [constant] : [])] }
}

/** What is wrong with a row; undefined where it agrees. */
function wrong(row: Row): string | undefined {
  const p = compileNetwork(statingConstant(readMtlx(row.document)), 'NG/N')
  const { outputs } = definitions.find(d => d.name === row.def)!
  const errors = p.faults.filter(f => f.severity === 'error')
  if (errors.length) return errors[0]!.message
  const shader = instantiate(
    p,
    p.images.map(() => null),
  )
  const C = Float64Array.from(p.constants)
  const valuesAt = (u: number, v: number, constants = C) => {
    const all = valueAt(shader, constants, memory.result, u, v)
    return outputs.length > 1 ? [all[outputs.findIndex(o => o.name === row.output)]!] : all
  }
  const rounded = (bit: number) => C.map((x, k) => x * (1 + ((k >> bit) & 1 ? -ROUNDING : ROUNDING)))
  for (const [i, [u, v]] of table.points.entries()) {
    const wanted = row.values[i]!
    const got = valuesAt(u, v)
    const near = [
      valuesAt(u + ROUNDING, v),
      valuesAt(u, v + ROUNDING),
      ...[0, 1, 2].map(bit => valuesAt(u, v, rounded(bit))),
    ]
    for (const [k, w] of wanted.entries()) {
      if (w === null) continue
      const unsure = Math.max(...near.map(n => Math.abs(n[k]! - got[k]!)))
      if (!(Math.abs(got[k]! - w) <= TOLERANCE * Math.max(1, Math.abs(w)) + unsure))
        return (
          `case ${row.case} ${row.output} at ${u}, ${v}: ` +
          `[${wanted.join(', ')}], got [${got.slice(0, wanted.length).join(', ')}]`
        )
    }
  }
  return undefined
}

const known = new Set(definitions.map(d => d.name))
const byDefinition = new Map<string, Row[]>()
for (const row of table.rows.filter(r => known.has(r.def)))
  byDefinition.set(row.def, [...(byDefinition.get(row.def) ?? []), row])

describe('values of the standard', () => {
  it.each([...byDefinition.keys()])('%s', name => {
    for (const row of byDefinition.get(name)!) expect(wrong(row)).toBeUndefined()
  })
})
