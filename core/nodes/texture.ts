import {
  absolute,
  divide,
  dot,
  least,
  most,
  multiply,
  negate,
  power,
  subtract,
  sum,
} from '../expression/arithmetic'
import { number, type Expression } from '../expression/expression'
import { components, EmitFault, type EmitContext, type NodeEntry } from './emit'
import { several } from './functions'
import { table } from './table'

const ADDRESS = table<number>({ constant: 0, clamp: 1, periodic: 2, mirror: 3 })

/** Components of a picture at (u, v). */
function sample(
  c: EmitContext,
  file: string,
  u: Expression,
  v: Expression,
  address: readonly [string, string],
): Expression[] {
  const modes = address.map(a => ADDRESS[a])
  if (modes.some(m => m === undefined))
    throw new EmitFault('an address mode is constant, clamp, periodic or mirror')
  const closest = c.text('filtertype') === 'closest'
  const fallback = c.arg('default')
  const [ux, uy] = closest ? [number(0), number(0)] : c.change(u)
  const [vx, vy] = closest ? [number(0), number(0)] : c.change(v)
  return several(
    'lookUp',
    [
      c.picture(file, c.type.startsWith('color')),
      u,
      v,
      ...modes.map(m => number(m!)),
      number(Number(closest)),
      ...[0, 1, 2, 3].map(k => fallback[k] ?? number(0)),
      ux,
      vx,
      uy,
      vy,
    ],
    c.size,
  )
}

/** Images (MaterialX specification, "Texture nodes"); v runs up. */
export const entries: Record<string, NodeEntry> = {
  image: {
    about: 'A picture at texture coordinates.',
    emit: c => {
      const [u, v] = c.arg('texcoord') as [Expression, Expression]
      return sample(c, 'file', u, v, [c.text('uaddressmode'), c.text('vaddressmode')])
    },
  },
  /**
   * Three images along the axes, weighed by the normal to the power of 1/blend (coordinates, weights and the least
   * blend as the standard's library has them).
   */
  triplanarprojection: {
    about:
      'Three pictures along the axes, weighed by the normal; upaxis says which way they stand: 1 is y, as in models.',
    emit: c => {
      const [x, y, z] = c.arg('position') as [Expression, Expression, Expression]
      const blend = divide(1, least(1, most(0.03, c.arg('blend')[0]!)))
      const w = c.arg('normal').map(k => power(absolute(k), blend))
      const total = most(1e-12, sum(w))
      const up = c.fixed('upaxis')
      const coordinates: [Expression, Expression][] = [
        up === 2 ? [y, z] : [z, y],
        up === 0 ? [z, x] : [x, z],
        up === 0 ? [negate(y), x] : [x, y],
      ]
      const sides = (['filex', 'filey', 'filez'] as const).map((file, k) =>
        sample(c, file, ...coordinates[k]!, ['periodic', 'periodic']),
      )
      return components(c, i =>
        divide(
          dot(
            sides.map(s => s[i]!),
            w,
          ),
          total,
        ),
      )
    },
  },
  tiledimage: {
    about: 'A picture in tiles of a size.',
    emit: c => {
      const uv = c.arg('texcoord')
      const tiling = c.arg('uvtiling')
      const offset = c.arg('uvoffset')
      const image = c.arg('realworldimagesize')
      const tile = c.arg('realworldtilesize')
      const [u, v] = [0, 1].map(k =>
        multiply(divide(subtract(multiply(uv[k]!, tiling[k]!), offset[k]!), image[k]!), tile[k]!),
      ) as [Expression, Expression]
      return sample(c, 'file', u, v, ['periodic', 'periodic'])
    },
  },
}
