import { definitionOf, setValue } from '../network/edit'
import { findElement, inputOf, nameOf, type Element } from '../network/document'
import { formatValue, parseValue } from '../nodes/types'
import type { InputDefinition } from '../nodes/definition'
import type { Finding } from './finding'
import type { Rule } from './rule'

const NAME = 'value out of range'
const bounds = (i: InputDefinition): [number, number] => {
  const number = (t: string | undefined, otherwise: number) =>
    t !== undefined && t !== '' ? Number(t.split(',')[0]) : otherwise
  return [Math.max(number(i.uimin, -Infinity), /ior$/.test(i.name) ? 1 : -Infinity), number(i.uimax, Infinity)]
}
const said = (low: number, high: number) =>
  high === Infinity ? `${low} or more` : low === -Infinity ? `${high} or less` : `${low} to ${high}`

interface Stated {
  input: InputDefinition
  value: number[]
}
/** Plain values that a node states, as its definition types them. */
const statedValues = (node: Element): Stated[] =>
  node.children
    .filter(c => c.tag === 'input' && c.attributes.value !== undefined && !c.attributes.unit)
    .flatMap(c => {
      const input = definitionOf(node)?.inputs.find(i => i.name === nameOf(c))
      const value = input && parseValue(input.type, c.attributes.value!)
      return input && value ? [{ input, value }] : []
    })

/** A value outside the range that its definition states, with the one nearest to it inside. */
function beyond(path: string, { input, value }: Stated): { held: string; finding: Finding } | undefined {
  const [low, high] = bounds(input)
  const label = input.name.replace(/_/g, ' ')
  if (!value.some(v => v < low || v > high)) return undefined
  const held = formatValue(
    input.type,
    value.map(v => Math.min(high, Math.max(low, v))),
  )
  return {
    held,
    finding: {
      rule: NAME,
      severity: 'warning',
      where: path,
      message: `${label} of ${path} is ${value.map(v => +v.toPrecision(4)).join(' ')}; it takes ${said(low, high)}.`,
      fix: `Set it to ${held}`,
    },
  }
}

/** Albedos of dielectrics brighter than fresh snow or darker than coal (common practice). */
function unlikelyAlbedo(path: string, node: Element, { input, value }: Stated): Finding | undefined {
  if (input.name !== 'base_color' || Number(inputOf(node, 'base_metalness')?.attributes.value ?? 0) > 0.5)
    return undefined
  const y = 0.2126 * value[0]! + 0.7152 * value[1]! + 0.0722 * value[2]!
  if (y > 0.9)
    return {
      rule: NAME,
      severity: 'info',
      where: path,
      message: `${path} reflects ${Math.round(y * 100)} % of white light; fresh snow about 85 %.`,
      fix: 'Darken it, or keep it as a choice',
    }
  if (y < 0.015 && inputOf(node, 'transmission_weight')?.attributes.value === undefined)
    return {
      rule: NAME,
      severity: 'info',
      where: path,
      message: `${path} reflects ${+(y * 100).toPrecision(2)} % of white light; coal about 3 %.`,
      fix: 'Brighten it, or keep it as a choice',
    }
  return undefined
}

/** Values outside the range that the definition states, and albedos that matter seldom has. */
export const valueRange: Rule = {
  name: NAME,
  run: ({ nodes }) =>
    nodes.flatMap(({ path, node }) =>
      statedValues(node).flatMap(s => beyond(path, s)?.finding ?? unlikelyAlbedo(path, node, s) ?? []),
    ),
  mend(document, finding) {
    const node = findElement(document, finding.where)
    for (const s of node ? statedValues(node) : []) {
      const found = beyond(finding.where, s)
      if (found?.finding.message === finding.message)
        return setValue(document, finding.where, s.input.name, s.input.type, found.held)
    }
    return undefined
  },
}
