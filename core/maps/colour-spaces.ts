import { acescgToRec709, decodeSRGB, displayP3ToRec709 } from '../colour/rgb'

const BYTES = Float32Array.from({ length: 256 }, (_, i) => i / 255)

/** Colour spaces by the standard's names that images and colours may be in. */
export const COLOUR_SPACES = [
  'srgb_texture',
  'lin_rec709',
  'raw',
  'acescg',
  'lin_ap1',
  'srgb_displayp3',
  'lin_displayp3',
  'gamma22',
  'gamma18',
  'g22_rec709',
  'g18_rec709',
  'none',
] as const

/** What makes encoded values of a space, 0..1, linear ones; undefined where they are. Primaries stay. */
export const decodingOf = (space: string): ((x: number) => number) | undefined =>
  space === 'srgb_texture' || space === 'srgb_displayp3'
    ? decodeSRGB
    : space === 'gamma22' || space === 'g22_rec709'
      ? x => x ** 2.2
      : space === 'gamma18' || space === 'g18_rec709'
        ? x => x ** 1.8
        : undefined

const curves = new Map<string, Float32Array>()

/** Linear value of each byte in a space; primaries stay. */
export function curveOf(space: string): Float32Array {
  let curve = curves.get(space)
  if (!curve) curves.set(space, (curve = BYTES.map(decodingOf(space) ?? (x => x))))
  return curve
}

/** Primaries of a space other than Rec.709, as a conversion of linear values. */
export const primariesOf = (space: string) =>
  space === 'acescg' || space === 'lin_ap1'
    ? acescgToRec709
    : space.endsWith('displayp3')
      ? displayP3ToRec709
      : undefined

/**
 * Turns a colour written in a space into linear Rec.709. Spaces with unknown names are taken as linear Rec.709;
 * the checks report them.
 */
export function toWorkingSpace(rgb: readonly number[], space: string | undefined): number[] {
  if (!space) return [...rgb]
  const decode = space === 'srgb_texture' || space === 'srgb_displayp3' ? decodeSRGB : (x: number) => x
  const power = space.includes('22') ? 2.2 : space.includes('18') && space !== 'lin_rec709' ? 1.8 : 1
  const linear = rgb.slice(0, 3).map(x => (power === 1 ? decode(x) : Math.max(0, x) ** power))
  return [...(primariesOf(space)?.(linear) ?? linear), ...rgb.slice(3)]
}
