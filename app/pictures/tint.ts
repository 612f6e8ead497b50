import { luminanceAt } from '../../core/colour/luminance'
import { decodeSRGB, encodeSRGB } from '../../core/colour/rgb'
import { childNamed, inputOf, type Element } from '../../core/network/document'
import { layersOf } from '../../core/network/layers'
import { parseValue } from '../../core/nodes/types'
import { conductorByName, conductorRGB } from '../../core/optics/conductors'

/** A linear colour for the page. */
export const css = (rgb: readonly number[]) =>
  `rgb(${rgb
    .slice(0, 3)
    .map(x => Math.round(255 * encodeSRGB(Math.min(1, Math.max(0, x)))))
    .join(', ')})`

/**
 * Ink that stands out more on a colour of {@link css}: by the contrast ratio of WCAG 2.2, black and white are equal on
 * a luminance of 0.179.
 */
export function inkOn(colour: string): 'dark' | 'bright' {
  const [r = 128, g = 128, b = 128] = (colour.match(/\d+/g) ?? []).map(Number)
  const luminance = luminanceAt(
    [r, g, b].map(x => decodeSRGB(x / 255)),
    0,
  )
  return luminance > 0.179 ? 'dark' : 'bright'
}

/** Plain colour of a node's surface, for swatches and hatches: what it is without its maps. */
export function surfaceTint(document: Element, name: string): string {
  const e = childNamed(document, name)
  if (!e) return '#808080'
  if (e.tag === 'wl_metal') {
    const m = conductorByName(inputOf(e, 'metal')?.attributes.value ?? 'iron')
    return m < 0 ? '#808080' : css(Array.from(conductorRGB.subarray(m * 3, m * 3 + 3)))
  }
  if (e.tag === 'wl_glass') return css(colourOf(document, e, 'color', 0) ?? [1, 1, 1])
  const colour = colourOf(document, e, e.tag === 'wl_coat_over' ? 'coat_color' : 'base_color', 0)
  if (inputOf(e, 'transmission_weight')?.attributes.value === '1')
    return css(colourOf(document, e, 'transmission_color', 0) ?? [1, 1, 1])
  return css(colour ?? (e.tag === 'open_pbr_surface' ? [0.8, 0.8, 0.8] : [1, 1, 1]))
}

/** First plain colour found up the wire. */
function colourOf(document: Element, e: Element, input: string, depth: number): number[] | undefined {
  const i = inputOf(e, input)?.attributes
  if (!i || depth > 8) return undefined
  if (i.value !== undefined) return parseValue(i.type ?? '', i.value)
  const from = i.nodename !== undefined ? childNamed(document, i.nodename) : undefined
  return (
    from &&
    ['fg', 'bg', 'in1', 'in', 'valuel', 'value']
      .map(n => colourOf(document, from, n, depth + 1))
      .find(c => c?.length === 3)
  )
}

const tints = new WeakMap<Element, string>()

/** Colour of a material's topmost opaque layer; found once for each document. */
export function documentTint(document: Element, material?: string): string {
  let tint = tints.get(document)
  if (tint === undefined) tints.set(document, (tint = findTint(document, material)))
  return tint
}

function findTint(document: Element, material?: string): string {
  const layers = layersOf(document, material)
  const top = layers.filter(l => l.kind === 'deposit' || l.kind === 'stock').at(-1)
  return top ? surfaceTint(document, top.surface) : '#808080'
}
