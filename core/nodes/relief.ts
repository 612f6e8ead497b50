import { above, absolute, add, divide, length, multiply, select, subtract } from '../expression/arithmetic'
import { number, type Expression } from '../expression/expression'
import type { EmitContext, NodeEntry } from './emit'
import { turnedNormal } from './normalmap'
import { table } from './table'

/** Inputs that are evaluated beside the point too: the compiler does not compute them where the node stands. */
export const BESIDE = table<readonly string[]>({
  heighttonormal: ['in', 'texcoord'],
  bump: ['height'],
})

/** The standard divides slopes by this, for parity with a Sobel filter of eight neighbours. */
const SOBEL = 1 / 16

/**
 * Normal of a height over u and v, in tangent space and as 0..1: the cross product of two steps along the surface
 * (u, v, height), which is (−∂h/∂u, −∂h/∂v, 1) made unit where u and v are the surface's own (MaterialX
 * 1.39, heighttonormal; the factor and the handling of mirrored coordinates from memory of its reference
 * implementation).
 */
function heightNormal(
  c: EmitContext,
  height: string,
  texcoord: string | undefined,
  scale: Expression,
): Expression[] {
  const asked: [string, number][] =
    texcoord === undefined
      ? [[height, 0]]
      : [
          [height, 0],
          [texcoord, 0],
          [texcoord, 1],
        ]
  const {
    values: [h, u, v],
    du,
    dv,
  } = c.beside(asked)
  const step = (x: [Expression, Expression, Expression] | undefined, k: 1 | 2, own: Expression) =>
    x ? subtract(x[k], x[0]) : own
  const rise = (k: 1 | 2) => multiply(multiply(subtract(h![k], h![0]), scale), SOBEL)
  const u1 = step(u, 1, du)
  const v1 = step(v, 1, number(0))
  const h1 = rise(1)
  const u2 = step(u, 2, number(0))
  const v2 = step(v, 2, dv)
  const h2 = rise(2)
  const z = subtract(multiply(u1, v2), multiply(v1, u2))
  const turn = select(above(0, z), -1, 1)
  const x = multiply(subtract(multiply(v1, h2), multiply(h1, v2)), turn)
  const y = multiply(subtract(multiply(h1, u2), multiply(u1, h2)), turn)
  const l = length([x, y, z])
  const asColour = (k: Expression, otherwise: number) =>
    select(above(l, 0), add(multiply(divide(k, l), 0.5), 0.5), otherwise)
  return [asColour(x, 0.5), asColour(y, 0.5), asColour(absolute(z), 1)]
}

/**
 * Relief by slopes (MaterialX 1.39: heighttonormal; bump is that followed by normalmap, over the part's own
 * coordinates).
 */
export const entries: Record<string, NodeEntry> = {
  heighttonormal: {
    about: 'Normals, as a picture of them has them, of a height.',
    emit: c => heightNormal(c, 'in', 'texcoord', c.arg('scale')[0]!),
  },
  bump: {
    about: 'The normal bent by a height.',
    emit: c => turnedNormal(c, heightNormal(c, 'height', undefined, c.arg('scale')[0]!), [number(1)]),
  },
}
