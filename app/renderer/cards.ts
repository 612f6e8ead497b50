import { definitionOf, feeders } from '../../core/network/edit'
import { childNamed, inputOf, isNode, nameOf, type Element } from '../../core/network/document'
import { COMPONENTS } from '../../core/network/types'
import type { Fault } from '../../core/network/resolve'

/** What a card of the network shows. */
export interface CardData {
  title: string
  kind: string
  inputs: { name: string, type: string, wired: boolean, value: string }[]
  outputs: { name: string, type: string }[]
  faults: string[]
  tapped: boolean
  off: boolean
}

/** Size of a cell of the network, pixels: positions in documents count cells. */
export const CELL = { x: 216, y: 104 }
/** Inputs a card shows at most besides those that are wired. */
const MOST = 3
const SHOWN = ['fg', 'bg', 'mix', 'base', 'bsdf', 'edf', 'surfaceshader', 'base_color', 'specular_roughness', 'coat_color', 'coat_roughness', 'metal', 'roughness', 'radius', 'side', 'in', 'in1', 'in2', 'low', 'high', 'position', 'texcoord', 'octaves', 'amplitude', 'file', 'value']

const short = (text: string) => text.split(',').map(t => Number.isFinite(+t) && t.trim() !== '' ? String(+(+t).toPrecision(3)) : t.trim()).join(' ')

/** Value as a card shows it: lengths with their unit. */
function valueOf(e: Element, name: string, fallback: string | undefined): string {
  const a = inputOf(e, name)?.attributes
  if (a?.wl_name) return a.wl_name
  const unit = a?.unit ? { millimeter: ' mm', meter: ' m', micrometer: ' µm', centimeter: ' cm' }[a.unit] ?? '' : ''
  return a?.value !== undefined ? short(a.value) + unit : fallback ? short(fallback) : ''
}

/** Card of a node. */
export function cardOf(e: Element, faults: readonly Fault[], tapped: boolean): CardData {
  const definition = definitionOf(e), wired = new Set(e.children.filter(c => c.tag === 'input' && (c.attributes.nodename ?? c.attributes.nodegraph) !== undefined).map(nameOf))
  const all = definition?.inputs ?? e.children.filter(c => c.tag === 'input').map(c => ({ name: nameOf(c), type: c.attributes.type ?? 'float' }))
  const rank = (n: string) => { const i = SHOWN.indexOf(n); return i < 0 ? 99 : i }
  const chosen = [...all].filter(i => !i.name.startsWith('back') && i.type !== 'displacementshader').sort((a, b) => +wired.has(b.name) - +wired.has(a.name) || rank(a.name) - rank(b.name)).slice(0, Math.max(MOST, wired.size))
  const keep = all.filter(i => chosen.includes(i as never))
  return {
    title: e.attributes.wl_title ?? nameOf(e).replace(/_/g, ' '), kind: e.tag.replace(/^wl_/, '').replace('open_pbr_surface', 'surface').replace('surfacematerial', 'material'),
    inputs: keep.map(i => ({ name: i.name, type: i.type, wired: wired.has(i.name), value: wired.has(i.name) ? '' : valueOf(e, i.name, (i as { default?: string }).default) })),
    outputs: e.attributes.type === 'material' ? [] : definition && definition.outputs.length > 1 ? definition.outputs : [{ name: 'out', type: e.attributes.type ?? '' }],
    faults: faults.filter(f => f.where === nameOf(e) && f.severity === 'error').map(f => f.message), tapped, off: e.attributes.wl_off === 'true',
  }
}

/** Wires between the nodes at the top of a document. */
export function wiresOf(document: Element): { id: string, source: string, target: string, sourceHandle: string, targetHandle: string, type: string, data: { slashes: number, surface: boolean } }[] {
  return document.children.filter(isNode).flatMap(e => e.children.filter(c => c.tag === 'input' && c.attributes.nodename && childNamed(document, c.attributes.nodename)).map((c) => {
    const from = childNamed(document, c.attributes.nodename!)!, several = (definitionOf(from)?.outputs.length ?? 1) > 1
    const type = c.attributes.type ?? from.attributes.type ?? ''
    return { id: `${nameOf(from)}>${nameOf(e)}.${nameOf(c)}`, source: nameOf(from), target: nameOf(e), sourceHandle: several ? c.attributes.output ?? 'out' : 'out', targetHandle: nameOf(c), type: 'wire', data: { slashes: COMPONENTS[type] ?? 1, surface: !(type in COMPONENTS) } }
  }))
}

/** Columns by distance to the material, for documents without positions. */
export function layout(document: Element): Map<string, { x: number, y: number }> {
  const nodes = document.children.filter(isNode), place = new Map<string, { x: number, y: number }>()
  const missing = nodes.filter(n => n.attributes.xpos === undefined || n.attributes.ypos === undefined)
  if (missing.length <= nodes.length / 2) {
    nodes.forEach((n, i) => place.set(nameOf(n), { x: Number(n.attributes.xpos ?? 0) * CELL.x, y: Number(n.attributes.ypos ?? i) * CELL.y }))
    return place
  }
  const column = new Map<string, number>()
  const visit = (name: string, c: number, depth: number) => {
    if (depth > 200 || (column.get(name) ?? -1) >= c) return
    column.set(name, c)
    const e = childNamed(document, name)
    for (const f of e ? feeders(e) : []) visit(f, c + 1, depth + 1)
  }
  for (const n of nodes) if (!nodes.some(o => feeders(o).includes(nameOf(n)))) visit(nameOf(n), 0, 0)
  const most = Math.max(0, ...column.values()), rows = new Map<number, number>()
  for (const n of nodes) {
    const c = column.get(nameOf(n)) ?? 0, r = rows.get(c) ?? 0
    rows.set(c, r + 1)
    place.set(nameOf(n), { x: (most - c) * CELL.x, y: r * CELL.y * 1.2 })
  }
  return place
}
