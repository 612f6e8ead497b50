import { EmitFault, type Emitter } from './emit'

const ADDRESS: Readonly<Record<string, number>> = { constant: 0, clamp: 1, periodic: 2, mirror: 3 }

function lookUp(c: Parameters<Emitter>[0], u: string, v: string, address: [string, string]): string[] {
  const modes = address.map(a => ADDRESS[a])
  if (modes.some(m => m === undefined)) throw new EmitFault('an address mode is constant, clamp, periodic or mirror')
  const filter = c.text('filtertype')
  const fallback = c.arg('default'), image = c.image('file', c.type.startsWith('color'))
  c.line(`lookUp(${image}, ${u}, ${v}, ${modes[0]}, ${modes[1]}, ${filter === 'closest'}, ${[0, 1, 2, 3].map(k => fallback[k] ?? '0').join(', ')});`)
  return Array.from({ length: c.size }, (_, k) => c.local(`T[${k}]`))
}

/** Images (MaterialX specification, "Texture nodes"); v runs up. */
export const emitters: Record<string, Emitter> = {
  image: (c) => {
    const uv = c.arg('texcoord')
    return lookUp(c, uv[0]!, uv[1]!, [c.text('uaddressmode'), c.text('vaddressmode')])
  },
  tiledimage: (c) => {
    const uv = c.arg('texcoord'), tiling = c.arg('uvtiling'), offset = c.arg('uvoffset'), image = c.arg('realworldimagesize'), tile = c.arg('realworldtilesize')
    const [u, v] = [0, 1].map(k => c.local(`(${uv[k]} * ${tiling[k]} - ${offset[k]}) / ${image[k]} * ${tile[k]}`))
    return lookUp(c, u!, v!, ['periodic', 'periodic'])
  },
}
