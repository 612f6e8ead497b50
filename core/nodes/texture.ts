import { table } from './table'
import { EmitFault, results, type Emitter, type NodeEntry } from './emit'

const ADDRESS = table<number>({ constant: 0, clamp: 1, periodic: 2, mirror: 3 })

const lookUp = (c: Parameters<Emitter>[0], u: string, v: string, address: [string, string]) =>
  sample(c, 'file', u, v, address)

function sample(
  c: Parameters<Emitter>[0],
  file: string,
  u: string,
  v: string,
  address: [string, string],
): string[] {
  const modes = address.map(a => ADDRESS[a])
  if (modes.some(m => m === undefined))
    throw new EmitFault('an address mode is constant, clamp, periodic or mirror')
  const filter = c.text('filtertype')
  const fallback = c.arg('default')
  const image = c.image(file, c.type.startsWith('color'))
  c.line(
    `lookUp(${image}, ${u}, ${v}, ${modes[0]}, ${modes[1]}, ${filter === 'closest'}, ` +
      `${[0, 1, 2, 3].map(k => fallback[k] ?? '0').join(', ')});`,
  )
  return results(c, c.size)
}

/** Images (MaterialX specification, "Texture nodes"); v runs up. */
export const entries: Record<string, NodeEntry> = {
  image: {
    about: 'A picture at texture coordinates.',
    emit: c => {
      const uv = c.arg('texcoord')
      return lookUp(c, uv[0]!, uv[1]!, [c.text('uaddressmode'), c.text('vaddressmode')])
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
      const [x, y, z] = c.arg('position') as [string, string, string]
      const n = c.arg('normal')
      const blend = c.local(`1 / Math.min(1, Math.max(0.03, ${c.arg('blend')[0]}))`)
      const w = n.map(k => c.local(`Math.pow(Math.abs(${k}), ${blend})`))
      const total = c.local(`Math.max(1e-12, ${w.join(' + ')})`)
      const up = c.fixed('upaxis')
      const coordinates: [string, string][] = [
        up === 2 ? [y, z] : [z, y],
        up === 0 ? [z, x] : [x, z],
        up === 0 ? [`-${y}`, x] : [x, y],
      ]
      const sides = (['filex', 'filey', 'filez'] as const).map((file, k) =>
        sample(c, file, ...coordinates[k]!, ['periodic', 'periodic']),
      )
      return Array.from(
        { length: c.size },
        (_, i) => `((${sides.map((s, k) => `${s[i]} * ${w[k]}`).join(' + ')}) / ${total})`,
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
        c.local(`(${uv[k]} * ${tiling[k]} - ${offset[k]}) / ${image[k]} * ${tile[k]}`),
      )
      return lookUp(c, u!, v!, ['periodic', 'periodic'])
    },
  },
}
