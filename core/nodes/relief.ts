import { table } from './table'
import type { EmitContext, NodeEntry } from './emit'
import { entries as normal } from './normalmap'

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
function heightNormal(c: EmitContext, height: string, texcoord: string | undefined, scale: string): string[] {
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
  const step = (x: [string, string, string] | undefined, k: 1 | 2, own: string) =>
    x ? c.local(`${x[k]} - ${x[0]}`) : own
  const rise = (k: 1 | 2) => c.local(`(${h![k]} - ${h![0]}) * ${scale} * ${SOBEL}`)
  const u1 = step(u, 1, du)
  const v1 = step(v, 1, '0')
  const h1 = rise(1)
  const u2 = step(u, 2, '0')
  const v2 = step(v, 2, dv)
  const h2 = rise(2)
  const z = c.local(`${u1} * ${v2} - ${v1} * ${u2}`)
  const turn = c.local(`${z} < 0 ? -1 : 1`)
  const x = c.local(`(${v1} * ${h2} - ${h1} * ${v2}) * ${turn}`)
  const y = c.local(`(${h1} * ${u2} - ${u1} * ${h2}) * ${turn}`)
  const l = c.local(`Math.sqrt(${x} * ${x} + ${y} * ${y} + ${z} * ${z})`)
  return [
    c.local(`${l} > 0 ? ${x} / ${l} * 0.5 + 0.5 : 0.5`),
    c.local(`${l} > 0 ? ${y} / ${l} * 0.5 + 0.5 : 0.5`),
    c.local(`${l} > 0 ? Math.abs(${z}) / ${l} * 0.5 + 0.5 : 1`),
  ]
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
    emit: c => {
      const tilted = heightNormal(c, 'height', undefined, c.arg('scale')[0]!)
      return normal.normalmap!.emit({
        ...c,
        arg: name => (name === 'in' ? tilted : name === 'scale' ? ['1', '1'] : c.arg(name)),
      })
    },
  },
}
