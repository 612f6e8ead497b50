/**
 * Edits of the points of our ramp and curve nodes: the inputs `count`, `position1…` and `color1…` or
 * `value1…`. Wires on a point move with it.
 */
import { MOST_POINTS } from '../nodes/memory'
import { element, findElement, inputOf, nameOf, type Element } from './document'
import { changeElement, definitionOf, EditError, setValue } from './edit'
import { COMPONENTS, formatValue, parseValue } from '../nodes/types'

export interface Point {
  position: number
  value: number[]
  /** Whether a wire gives the value. */ wired: boolean
}

const prefixOf = (node: Element): string => (node.attributes.type === 'color3' ? 'color' : 'value')

/** The points of a ramp or a curve, in their order. */
export function pointsOf(node: Element): Point[] {
  const prefix = prefixOf(node)
  const definition = definitionOf(node)
  const read = (name: string): number[] => {
    const d = definition?.inputs.find(i => i.name === name)
    return (
      (d && parseValue(d.type, inputOf(node, name)?.attributes.value ?? d.default ?? '')) ??
      new Array(COMPONENTS[d?.type ?? ''] ?? 1).fill(0)
    )
  }
  return Array.from({ length: Math.min(MOST_POINTS, Math.max(1, read('count')[0]!)) }, (_, k) => ({
    position: read(`position${k + 1}`)[0]!,
    value: read(prefix + (k + 1)),
    wired: inputOf(node, prefix + (k + 1))?.attributes.nodename !== undefined,
  }))
}

/**
 * Puts a point where it falls in order, with the value that straight lines give there.
 * @throws EditError when there are as many as can be
 */
export function insertPoint(document: Element, path: string, position: number): { document: Element; at: number } {
  const node = nodeAt(document, path)
  const points = pointsOf(node)
  if (points.length >= MOST_POINTS)
    throw new EditError(`a ${node.tag.replace(/^wl_/, '')} has at most ${MOST_POINTS} points`)
  const found = points.findIndex(p => p.position > position)
  const at = found < 0 ? points.length : found
  const a = points[at - 1]
  const b = points[at]
  const t = a && b && b.position > a.position ? (position - a.position) / (b.position - a.position) : 0
  const value = a && b ? a.value.map((x, i) => x + (b.value[i]! - x) * t) : [...(a ?? b)!.value]
  return {
    document: write(
      document,
      path,
      points,
      [...points.keys()].flatMap(k => (k === at ? [-1, k] : [k])).concat(at === points.length ? [-1] : []),
      { position, value, wired: false },
    ),
    at,
  }
}

/** Takes a point out. @throws EditError for the last one */
export function removePoint(document: Element, path: string, k: number): Element {
  const points = pointsOf(nodeAt(document, path))
  if (points.length <= 1) throw new EditError('one point must stay')
  return write(
    document,
    path,
    points,
    [...points.keys()].filter(i => i !== k),
  )
}

/** Moves a point, between its neighbours, and gives it a value. */
export function movePoint(
  document: Element,
  path: string,
  k: number,
  position: number,
  value?: readonly number[],
): Element {
  const node = nodeAt(document, path)
  const points = pointsOf(node)
  const type = node.attributes.type!
  const within = Math.min(
    points[k + 1]?.position ?? Infinity,
    Math.max(points[k - 1]?.position ?? -Infinity, position),
  )
  const moved = setValue(document, path, `position${k + 1}`, 'float', formatValue('float', [within]))
  return value && !points[k]!.wired
    ? setValue(moved, path, prefixOf(node) + (k + 1), type, formatValue(type, value))
    : moved
}

function nodeAt(document: Element, path: string): Element {
  const node = findElement(document, path)
  if (!node) throw new EditError(`there is nothing called ${path}`)
  return node
}

/** Writes the points in a new order. @param order numbers of the old points, −1 for the fresh one */
function write(document: Element, path: string, points: Point[], order: number[], fresh?: Point): Element {
  return changeElement(document, path, node => {
    const prefix = prefixOf(node)
    const type = node.attributes.type!
    const own = new RegExp(`^(position|${prefix})\\d$|^count$`)
    const plain = (p: Point, k: number) => [
      element('input', { name: `position${k}`, type: 'float', value: formatValue('float', [p.position]) }),
      element('input', { name: prefix + k, type, value: formatValue(type, p.value) }),
    ]
    const inputs = order.flatMap((from, i) => {
      const made = plain(from < 0 ? fresh! : points[from]!, i + 1)
      return from < 0
        ? made
        : made.map((e, which) => {
            const was = inputOf(node, (which ? prefix : 'position') + (from + 1))
            return was ? { ...was, attributes: { ...was.attributes, name: nameOf(e) } } : e
          })
    })
    return {
      ...node,
      children: [
        ...node.children.filter(c => !(c.tag === 'input' && own.test(nameOf(c)))),
        element('input', { name: 'count', type: 'integer', value: String(order.length) }),
        ...inputs,
      ],
    }
  })
}
