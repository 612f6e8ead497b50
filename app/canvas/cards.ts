import { definitionOf } from '../../core/network/edit'
import { inputOf, isDriven, nameOf, type Element } from '../../core/network/document'
import type { Fault } from '../../core/network/resolve'
import { geometricDefault, type InputDefinition } from '../../core/nodes/definition'
import { CLOSURES, DISPLACEMENT, isValueType, unitScale } from '../../core/nodes/types'
import { groupInputs } from '../../core/network/groups'
import { PART_GIVES } from '../words/part-gives'
import { shownAs } from '../words/shown-as'
import { writeQuantity } from '../words/units'

/** What a card of the network shows. */
export interface CardData {
  title: string
  kind: string
  inputs: {
    name: string
    type: string
    wired: boolean
    value: string
    /** Whether the value says what a wire that is held over it would lose. */
    loses?: boolean
  }[]
  /** Inputs that it has no row for: shown while a wire that fits is held over it. */
  more: { name: string; type: string }[]
  outputs: { name: string; type: string }[]
  faults: string[]
  tapped: boolean
  off: boolean
  /** Whether the card is a group that can be opened. */
  group: boolean
}

/**
 * What a part of the canvas is told. Not its place and size, which the library would tell too: it would be drawn again
 * with every move.
 */
export interface Shown {
  id: string
  data: CardData
  selected: boolean
}

/** Size of a cell of the network, pixels: positions in documents count cells. */
export const CELL = { x: 216, y: 104 }
/** Inputs a card shows at most besides those that are wired. */
const MOST = 3
const SHOWN = [
  'fg',
  'bg',
  'mix',
  'base',
  'bsdf',
  'edf',
  'surfaceshader',
  'displacementshader',
  'base_color',
  'specular_roughness',
  'coat_color',
  'coat_roughness',
  'metal',
  'roughness',
  'radius',
  'side',
  'in',
  'in1',
  'in2',
  'low',
  'high',
  'position',
  'texcoord',
  'octaves',
  'amplitude',
  'file',
  'value',
]

const short = (text: string) =>
  text
    .split(',')
    .map(t => (Number.isFinite(+t) && t.trim() !== '' ? String(+(+t).toPrecision(3)) : t.trim()))
    .join(' ')

/** Value as a card shows it: lengths in the unit of their row. */
function valueOf(document: Element, path: string, e: Element, input: InputDefinition): string {
  const a = inputOf(e, input.name)?.attributes
  if (a?.wl_name) return a.wl_name
  const given = a?.value === undefined ? geometricDefault(input) : undefined
  if (given !== undefined) return PART_GIVES[given]?.short ?? ''
  const text = a?.value ?? input.default ?? ''
  if (input.type !== 'float' || text === '') return short(text)
  const { quantity, unit, own } = shownAs(document, path, input)
  if (quantity !== 'length') return short(text)
  return `${writeQuantity(Number(text) * own * (unitScale(a?.unit) ?? 1), quantity, unit)} ${unit}`
}

/** What a tab says of a type: how many components, c for colour, S for surface, D for displacement, t for text. */
export const tabOf = (type: string): string =>
  type.startsWith('color')
    ? 'c'
    : type === 'surfaceshader' || type === 'material' || type === 'BSDF' || type === 'EDF'
      ? 'S'
      : type === DISPLACEMENT
        ? 'D'
        : type === 'string' || type === 'filename'
          ? 't'
          : /\d$/.test(type)
            ? type.slice(-1)
            : '1'

/** Measures of a card, pixels: its width and least height, the width of a tab outside it, and where tabs lie. */
export const CARD = {
  width: 148,
  least: 70,
  tab: 18,
  input: (row: number) => 36 + row * 19,
  output: (row: number) => 14 + row * 20,
}
/** Height of a card, pixels. */
export const heightOf = (c: CardData): number =>
  Math.max(CARD.least, 32 + c.inputs.length * 19, 12 + c.outputs.length * 20) + (c.faults.length ? 31 : 0)

/**
 * Card of a node or a group.
 * @param path of it in the document
 * @param values whether it says what its inputs are
 */
export function cardOf(
  document: Element,
  e: Element,
  path: string,
  faults: readonly Fault[],
  tapped: boolean,
  values = true,
): CardData {
  const group = e.tag === 'nodegraph'
  const definition = definitionOf(e)
  const wired = new Set(e.children.filter(isDriven).map(nameOf))
  const all = definition?.inputs ?? groupInputs(e)
  const rank = (n: string) => {
    const i = SHOWN.indexOf(n)
    return i < 0 ? 99 : i
  }
  const chosen = [...all]
    .filter(i => !i.name.startsWith('back'))
    .sort((a, b) => +wired.has(b.name) - +wired.has(a.name) || rank(a.name) - rank(b.name))
    .slice(0, Math.max(MOST, wired.size))
  const keep = group ? all : all.filter(i => chosen.includes(i))
  return {
    title: e.attributes.wl_title ?? nameOf(e).replace(/_/g, ' '),
    kind: e.tag
      .replace(/^wl_/, '')
      .replace('open_pbr_surface', 'surface')
      .replace('surfacematerial', 'material')
      .replace('nodegraph', 'group'),
    inputs: keep.map(i => ({
      name: i.name,
      type: i.type,
      wired: wired.has(i.name),
      value: wired.has(i.name) || !values ? '' : valueOf(document, path, e, i),
    })),
    // what has a value is more often meant than what has none
    more: all
      .filter(i => !keep.includes(i) && (isValueType(i.type) || CLOSURES.has(i.type)))
      .sort((a, b) => +(inputOf(e, b.name) !== undefined) - +(inputOf(e, a.name) !== undefined))
      .map(({ name, type }) => ({ name, type })),
    outputs: group
      ? e.children.filter(c => c.tag === 'output').map(c => ({ name: nameOf(c), type: c.attributes.type ?? '' }))
      : e.attributes.type === 'material'
        ? []
        : definition && definition.outputs.length > 1
          ? definition.outputs
          : [{ name: 'out', type: e.attributes.type ?? '' }],
    faults: faults
      .filter(f => (f.where === path || (group && f.where.startsWith(path + '/'))) && f.severity === 'error')
      .map(f => f.message),
    tapped,
    off: e.attributes.wl_off === 'true',
    group,
  }
}
