/**
 * How values change over a pixel: derivatives of any expression along the two axes of the picture, forward mode
 * (Griewank & Walther 2008, "Evaluating Derivatives", ch. 3). What jumps (floor, comparisons, random numbers of
 * cells) counts as standing still, so that the seam between two tiles of a picture is not blurred; functions that are
 * called are asked once more at the place next door.
 */
import { POINT } from '../point/slots'
import {
  above,
  absolute,
  add,
  atLeast,
  cosine,
  divide,
  exponential,
  logarithm,
  most,
  multiply,
  negate,
  power,
  select,
  sine,
  squareRoot,
  subtract,
} from './arithmetic'
import { call, number, parts, point, type Expression, type Operation } from './expression'
import type { Shared, Sharing } from './share'

/** Along the picture's width and its height. */
export type Axis = 0 | 1

/** Words of the point that change, each with where its change along the two axes stands; three or two in a row. */
const MOVING = [
  [POINT.position, 3, [POINT.dpdx, POINT.dpdy]],
  [POINT.normal, 3, [POINT.dndx, POINT.dndy]],
  [POINT.uv, 2, [POINT.duvdx, POINT.duvdy]],
] as const

/** Change of a component of the position in the part's own space. */
function changeOfObject(row: number, axis: Axis): Expression {
  const dp = [0, 1, 2].map(k => point((axis === 0 ? POINT.dpdx : POINT.dpdy) + k))
  const turned = dp.map((d, k) => multiply(point(POINT.toObject + row * 3 + k), d)).reduce((a, b) => add(a, b))
  return select(above(point(POINT.moved), 0), turned, dp[row]!)
}

/** Change of a field, by how it grows along the surface. */
function changeOfField(number: number, axis: Axis): Expression {
  const dp = axis === 0 ? POINT.dpdx : POINT.dpdy
  return [0, 1, 2]
    .map(k => multiply(point(POINT.fieldBy + 3 * number + k), point(dp + k)))
    .reduce((a, b) => add(a, b))
}

function changeOfWord(word: number, axis: Axis): Expression {
  for (const [first, count, change] of MOVING)
    if (word >= first && word < first + count) return point(change[axis] + word - first)
  if (word >= POINT.objectPosition && word < POINT.objectPosition + 3)
    return changeOfObject(word - POINT.objectPosition, axis)
  if (word >= POINT.restPosition && word < POINT.restPosition + 3) {
    const row = word - POINT.restPosition
    const duv = axis === 0 ? POINT.duvdx : POINT.duvdy
    const along = add(
      multiply(point(POINT.restByU + row), point(duv)),
      multiply(point(POINT.restByV + row), point(duv + 1)),
    )
    return select(above(point(POINT.displaced), 0), along, changeOfObject(row, axis))
  }
  if (word >= POINT.field && word < POINT.fieldBy) return changeOfField(word - POINT.field, axis)
  if (word >= POINT.uvMore && word < POINT.uvMoreBy) {
    const first = point(axis === 0 ? POINT.duvdx : POINT.duvdy)
    const second = point((axis === 0 ? POINT.duvdx : POINT.duvdy) + 1)
    const by = POINT.uvMoreBy + 2 * (word - POINT.uvMore)
    return add(multiply(point(by), first), multiply(point(by + 1), second))
  }
  return number(0)
}

const still = (e: Expression): boolean => e.operation === 'number' && e.at === 0

type Rule = (x: readonly Expression[], d: readonly Expression[], self: Expression) => Expression

const square = (x: Expression) => multiply(x, x)
/** d over the root of what it is of, where that is above 0. */
const overRoot = (d: Expression, x: Expression) => select(above(x, 0), divide(d, squareRoot(most(x, 0))), 0)

/** Chain rule of each operation, with its operands x, their changes d and itself. What is not named stands still. */
const RULES: Partial<Record<Operation, Rule>> = {
  add: (_, [a, b]) => add(a!, b!),
  subtract: (_, [a, b]) => subtract(a!, b!),
  multiply: ([a, b], [da, db]) =>
    still(da!) ? multiply(a!, db!) : still(db!) ? multiply(da!, b!) : add(multiply(da!, b!), multiply(a!, db!)),
  divide: ([, b], [da, db], self) =>
    still(db!) ? divide(da!, b!) : divide(subtract(da!, multiply(self, db!)), b!),
  remainder: (_, [a]) => a!,
  negate: (_, [a]) => negate(a!),
  min: ([a, b], [da, db]) => select(atLeast(b!, a!), da!, db!),
  max: ([a, b], [da, db]) => select(atLeast(a!, b!), da!, db!),
  abs: ([a], [da]) => select(atLeast(a!, 0), da!, negate(da!)),
  power: ([a, b], [da, db]) =>
    select(
      above(a!, 0),
      add(
        multiply(multiply(b!, power(a!, subtract(b!, 1))), da!),
        still(db!) ? 0 : multiply(multiply(power(a!, b!), logarithm(a!)), db!),
      ),
      0,
    ),
  sqrt: ([a], [da]) => multiply(overRoot(da!, a!), 0.5),
  sin: ([a], [da]) => multiply(cosine(a!), da!),
  cos: ([a], [da]) => negate(multiply(sine(a!), da!)),
  tan: (_, [da], self) => multiply(add(1, square(self)), da!),
  asin: ([a], [da]) => overRoot(da!, subtract(1, square(a!))),
  acos: ([a], [da]) => negate(overRoot(da!, subtract(1, square(a!)))),
  atan2: ([y, x], [dy, dx]) => {
    const r2 = add(square(x!), square(y!))
    return select(above(r2, 0), divide(subtract(multiply(x!, dy!), multiply(y!, dx!)), r2), 0)
  },
  log: ([a], [da]) => select(above(absolute(a!), 0), divide(da!, a!), 0),
  exp: ([a], [da]) => multiply(exponential(a!), da!),
  select: ([so], [, da, db]) => select(so!, da!, db!),
}

/** Finds changes; one a program. */
export interface Changes {
  /** How an expression of the program changes over a pixel along an axis. */
  of(e: Shared, axis: Axis): Shared
}

/**
 * @param moving how many of a function's operands, from the first on, count as moving what it gives: 0 for one that
 * jumps between values
 */
export function createChanges(sharing: Sharing, moving: (name: string) => number): Changes {
  const found: [Map<number, Shared>, Map<number, Shared>] = [new Map(), new Map()]
  const zero = sharing.share(number(0))

  /** Changed operands of a call that is asked next door; undefined where all stand still. */
  function nextDoor(e: Shared, axis: Axis): Expression[] | undefined {
    const moved = moving(e.name)
    const d = e.operands.map((o, k) => (k < moved && o.type === 'number' ? found[axis].get(o.id)! : zero))
    return d.every(still) ? undefined : e.operands.map((o, k) => (still(d[k]!) ? o : add(o, d[k]!)))
  }

  function changeOf(e: Shared, axis: Axis): Expression {
    if (e.operation === 'point') return changeOfWord(e.at, axis)
    const called = e.operation === 'part' ? e.operands[0]! : e
    if (called.operation === 'call') {
      const moved = nextDoor(called, axis)
      if (!moved) return zero
      const again = { ...call(called.name, moved.slice(0, called.at), moved.slice(called.at)), type: called.type }
      return subtract(e === called ? again : parts(again, e.at + 1)[e.at]!, e)
    }
    const rule = RULES[e.operation]
    if (!rule) return zero
    const d = e.operands.map(o => found[axis].get(o.id) ?? zero)
    return d.every(still) ? zero : rule(e.operands, d, e)
  }

  /** All that an expression is made of and whose change is not known, itself included, in the order of making. */
  function unknown(e: Shared, axis: Axis): Shared[] {
    const seen = new Set<Shared>([e])
    const waiting = [e]
    while (waiting.length)
      for (const o of waiting.pop()!.operands)
        if (!seen.has(o) && !found[axis].has(o.id)) {
          seen.add(o)
          waiting.push(o)
        }
    return [...seen].sort((a, b) => a.id - b.id)
  }

  return {
    of(e, axis) {
      for (const part of unknown(e, axis))
        if (!found[axis].has(part.id)) found[axis].set(part.id, sharing.share(changeOf(part, axis)))
      return found[axis].get(e.id)!
    },
  }
}
