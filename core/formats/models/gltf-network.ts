/** The network of one glTF material while it is built: pictures where they lie, channels and colours times factors. */
import type { Texture, TextureInfo } from '@gltf-transform/core'
import type { Transform } from '@gltf-transform/extensions'
import { element, type Element } from '../../network/document'
import { embeddedImage, type TranslatedMaterial } from './translated'

/** Address modes of glTF 2.0 §5.26 by the standard's names; what repeats is usual. */
const ADDRESS = new Map([
  [33071, 'clamp'],
  [33648, 'mirror'],
])

export const plain = (name: string, type: string, value: string): Element =>
  element('input', { name, type, value })
export const wire = (name: string, type: string, from: string): Element =>
  element('input', { name, type, nodename: from })
export const text = (v: readonly number[]): string => v.map(x => String(+x.toPrecision(6))).join(', ')

export function createNetwork() {
  const nodes: Element[] = []
  const inputs: Element[] = []
  const images: TranslatedMaterial['images'] = []
  const lost: string[] = []
  const numbers = new Map<Texture, number>()
  const places = new Map<string, string>()

  /** Adds a node. @returns its name */
  function node(tag: string, as: string, type: string, column: number, children: Element[]): string {
    nodes.push(element(tag, { name: as, type, xpos: String(column), ypos: String(nodes.length) }, children))
    return as
  }

  /**
   * Node that says where a picture lies: its set of coordinates, moved, turned and scaled (KHR_texture_transform). That
   * is said of v that runs down; ours runs up. @returns undefined for the first set as it is
   */
  function placement(info: TextureInfo | null): string | undefined {
    const moved = info?.getExtension<Transform>('KHR_texture_transform')
    const set = moved?.getTexCoord() ?? info?.getTexCoord() ?? 0
    const [ox = 0, oy = 0] = moved?.getOffset() ?? []
    const [sx = 1, sy = 1] = moved?.getScale() ?? []
    const turn = moved?.getRotation() ?? 0
    const still = ox === 0 && oy === 0 && sx === 1 && sy === 1 && turn === 0
    if (set === 0 && still) return undefined
    const key = [set, ox, oy, sx, sy, turn].join(' ')
    const known = places.get(key)
    if (known) return known
    const n = places.size + 1
    const from = node('texcoord', `coordinates_${n}`, 'vector2', -2, [plain('index', 'integer', String(set))])
    const as = still
      ? from
      : node('place2d', `placement_${n}`, 'vector2', -1, [
          wire('texcoord', 'vector2', from),
          plain('scale', 'vector2', text([1 / (sx || 1e-6), 1 / (sy || 1e-6)])),
          plain('rotate', 'float', text([(-turn * 180) / Math.PI])),
          plain('offset', 'vector2', text([-ox - Math.sin(turn) * sy, oy - 1 + Math.cos(turn) * sy])),
        ])
    places.set(key, as)
    return as
  }

  /** Adds an image node. @returns its name, or undefined where the texture holds nothing */
  function image(
    texture: Texture | null,
    info: TextureInfo | null,
    as: string,
    type: string,
    srgb: boolean,
  ): string | undefined {
    const bytes = texture?.getImage()
    if (!texture || !bytes) return undefined
    let n = numbers.get(texture)
    if (n === undefined) {
      numbers.set(texture, (n = images.length))
      const ending = texture.getMimeType() === 'image/jpeg' ? 'jpg' : 'png'
      images.push({
        name: `${(texture.getName() || texture.getURI() || as).replace(/\.[^.]*$/, '').slice(0, 80)}.${ending}`,
        bytes,
      })
    }
    const where = placement(info)
    const made = embeddedImage(as, type, nodes.length, n, images[n]!.name, srgb)
    if (where) made.children.push(wire('texcoord', 'vector2', where))
    for (const [input, mode] of [
      ['uaddressmode', info?.getWrapS()],
      ['vaddressmode', info?.getWrapT()],
    ] as const) {
      const address = ADDRESS.get(mode ?? 0)
      if (address) made.children.push(plain(input, 'string', address))
    }
    nodes.push(made)
    return as
  }

  /** A colour from a map and a factor, times another node where there is one. */
  function colour(input: string, map: string | undefined, factor: readonly number[], times?: string): void {
    let from = map
    if (from !== undefined && factor.some(x => x !== 1))
      from = node('multiply', `${from}_tinted`, 'color3', 1, [
        wire('in1', 'color3', from),
        plain('in2', 'color3', text(factor)),
      ])
    if (times !== undefined)
      from = node('multiply', `${input}_times_${times}`, 'color3', 2, [
        wire('in1', 'color3', times),
        from === undefined ? plain('in2', 'color3', text(factor)) : wire('in2', 'color3', from),
      ])
    inputs.push(from === undefined ? plain(input, 'color3', text(factor)) : wire(input, 'color3', from))
  }

  /** One channel of a map times a factor, as a node; undefined without a map. @param type of the image node */
  function channelNode(
    input: string,
    map: string | undefined,
    type: string,
    index: number,
    factor: number,
  ): string | undefined {
    if (map === undefined) return undefined
    const own = node('extract', `${input}_of_${map}`, 'float', 1, [
      wire('in', type, map),
      plain('index', 'integer', String(index)),
    ])
    return factor === 1
      ? own
      : node('multiply', `${input}_scaled`, 'float', 2, [
          wire('in1', 'float', own),
          plain('in2', 'float', text([factor])),
        ])
  }

  /** A number from one channel of a map and a factor. @param type of the image node */
  function channel(input: string, map: string | undefined, index: number, factor: number, type = 'vector3'): void {
    const from = channelNode(input, map, type, index, factor)
    inputs.push(from === undefined ? plain(input, 'float', text([factor])) : wire(input, 'float', from))
  }

  /** A normal from a map. */
  function relief(input: string, map: string | undefined, as: string, scale: number): void {
    if (map === undefined) return
    const made = node('normalmap', as, 'vector3', 1, [
      wire('in', 'vector3', map),
      plain('scale', 'float', text([scale])),
    ])
    inputs.push(wire(input, 'vector3', made))
  }

  return { nodes, inputs, images, lost, node, image, colour, channelNode, channel, relief }
}
