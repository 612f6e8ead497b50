import { formatValue, parseValue } from '../nodes/types'
import { element, findElement, inputOf, type Element } from './document'
import { addFresh, connect, setNumbers, splitPath } from './edit'

/**
 * How a picture lies on a surface, as a person says it: in units of the surface's coordinates, which grow to the right
 * and upwards.
 */
export interface Placement {
  /** What one tile takes along u and v. */
  tile: readonly [number, number]
  /** How far the picture is moved along u and v. */
  offset: readonly [number, number]
  /** How far it is turned counter-clockwise, degrees. */
  turn: number
}

type Placing = 'scale' | 'offset' | 'rotate'

/** x, y turned counter-clockwise. */
function turned(x: number, y: number, degrees: number): [number, number] {
  const a = (degrees * Math.PI) / 180
  return [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)]
}

const movesFirst = (node: Element): boolean => inputOf(node, 'operationorder')?.attributes.value === '1'

/**
 * Reads the placement of a `place2d` (MaterialX 1.39, place2d). The standard computes where in the picture a point of
 * the surface looks, so what the picture does is the inverse of it:
 * order 1 (TRS) looks at R⁻¹(p − offset) / scale, which moves the picture by the offset; order 0 (SRT) at
 * R⁻¹(p / scale) − offset, which moves it by scale · R(offset).
 * @returns undefined where one of its numbers is wired
 */
export function placementOf(node: Element): Placement | undefined {
  const numbers = (name: Placing, fallback: string): number[] | undefined => {
    const a = inputOf(node, name)?.attributes
    if (a && a.value === undefined) return undefined
    return parseValue(name === 'rotate' ? 'float' : 'vector2', a?.value ?? fallback)
  }
  const [sx, sy] = numbers('scale', '1, 1') ?? []
  const [ox, oy] = numbers('offset', '0, 0') ?? []
  const [turn] = numbers('rotate', '0') ?? []
  if (sx === undefined || sy === undefined || ox === undefined || oy === undefined || turn === undefined)
    return undefined
  const [x, y] = turned(ox, oy, turn)
  return { tile: [sx, sy], turn, offset: movesFirst(node) ? [ox, oy] : [sx * x, sy * y] }
}

/** Writes a placement into a `place2d`, in its own order of operations; wires of its other inputs stay. */
export function setPlacement(document: Element, path: string, p: Placement): Element {
  const node = findElement(document, path)
  const [x, y] = turned(p.offset[0] / (p.tile[0] || 1), p.offset[1] / (p.tile[1] || 1), -p.turn)
  const offset = node && movesFirst(node) ? p.offset : [x, y]
  const scaled = setNumbers(document, path, 'scale', 'vector2', p.tile)
  return setNumbers(setNumbers(scaled, path, 'offset', 'vector2', offset), path, 'rotate', 'float', [p.turn])
}

/**
 * Gives a node with coordinates a placement of its own, which turns about the middle of a tile and moves along the
 * surface (order 1).
 * @param tile what one tile takes, in units of the surface's coordinates
 * @returns the new document and the path of the placement
 */
export function addPlacement(
  document: Element,
  path: string,
  input = 'texcoord',
  tile: readonly [number, number] = [1, 1],
): { document: Element; path: string } {
  const at = findElement(document, path)?.attributes ?? {}
  const given = (of: string, type: string, value: string) => element('input', { name: of, type, value })
  const added = addFresh(
    document,
    splitPath(path)[0],
    'placement',
    'place2d',
    { type: 'vector2', xpos: String(Number(at.xpos ?? 0) - 1), ypos: String(Number(at.ypos ?? 0)) },
    [
      given('pivot', 'vector2', '0.5, 0.5'),
      given('scale', 'vector2', formatValue('vector2', tile)),
      given('operationorder', 'integer', '1'),
    ],
  )
  return { document: connect(added.document, added.path, path, input), path: added.path }
}
