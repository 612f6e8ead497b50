import { definitionOf, setValue } from '../network/edit'
import { findElement, inputOf, nameOf } from '../network/document'
import { formatValue, parseValue } from '../network/types'
import type { Finding } from './finding'
import type { Rule } from './rule'

const NAME = 'value out of range'
const bounds = (i: { uimin?: string, uimax?: string, name: string }): [number, number] => {
  const number = (t: string | undefined, otherwise: number) => t !== undefined && t !== '' ? Number(t.split(',')[0]) : otherwise
  return [Math.max(number(i.uimin, -Infinity), /ior$/.test(i.name) ? 1 : -Infinity), number(i.uimax, Infinity)]
}
const said = (low: number, high: number) => high === Infinity ? `${low} or more` : low === -Infinity ? `${high} or less` : `${low} to ${high}`

/** Values outside the range that the definition states; albedos brighter than fresh snow or darker than coal (common practice). */
export const valueRange: Rule = {
  name: NAME,
  run: ({ nodes }) => nodes.flatMap(({ path, node }) => node.children.filter(c => c.tag === 'input' && c.attributes.value !== undefined).flatMap((c): Finding[] => {
    const input = definitionOf(node)?.inputs.find(i => i.name === nameOf(c)), value = input && parseValue(input.type, c.attributes.value!)
    if (!input || !value || c.attributes.unit) return []
    const [low, high] = bounds(input), label = nameOf(c).replace(/_/g, ' ')
    if (value.some(v => v < low || v > high)) return [{ rule: NAME, severity: 'warning', where: path, message: `${label} of ${path} is ${value.map(v => +v.toPrecision(4)).join(' ')}; it takes ${said(low, high)}.`, fix: `Set it to ${formatValue(input.type, value.map(v => Math.min(high, Math.max(low, v))))}` }]
    const y = input.type === 'color3' ? 0.2126 * value[0]! + 0.7152 * value[1]! + 0.0722 * value[2]! : NaN
    const metal = Number(inputOf(node, 'base_metalness')?.attributes.value ?? 0) > 0.5
    if (input.name === 'base_color' && !metal && y > 0.9) return [{ rule: NAME, severity: 'info', where: path, message: `${path} reflects ${Math.round(y * 100)} % of white light; fresh snow about 85 %.`, fix: 'Darken it, or keep it as a choice' }]
    if (input.name === 'base_color' && !metal && y < 0.015 && inputOf(node, 'transmission_weight')?.attributes.value === undefined) return [{ rule: NAME, severity: 'info', where: path, message: `${path} reflects ${+(y * 100).toPrecision(2)} % of white light; coal about 3 %.`, fix: 'Brighten it, or keep it as a choice' }]
    return []
  })),
  mend(document, finding) {
    const to = /^Set it to (.+)$/.exec(finding.fix)?.[1], node = findElement(document, finding.where), label = /^(.+) of /.exec(finding.message)?.[1]?.replace(/ /g, '_')
    const type = node && label ? definitionOf(node)?.inputs.find(i => i.name === label)?.type : undefined
    return to !== undefined && label !== undefined && type !== undefined ? setValue(document, finding.where, label, type, to) : undefined
  },
}
