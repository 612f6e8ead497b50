import { table } from '../../core/nodes/table'
import type { InputDefinition } from '../../core/nodes/definition'

/** Names on the screen for inputs whose standard names are too long for a row. */
const LABELS = table<string>({
  base_color: 'Colour',
  base_weight: 'Amount',
  base_metalness: 'Metalness',
  specular_weight: 'Specular',
  specular_color: 'Specular tint',
  specular_roughness: 'Roughness',
  specular_ior: 'IOR',
  transmission_weight: 'Transmission',
  transmission_color: 'Colour at depth',
  transmission_depth: 'Depth',
  coat_weight: 'Coverage',
  coat_color: 'Tint',
  coat_roughness: 'Roughness',
  coat_ior: 'IOR',
  coat_darkening: 'Darkening',
  base_diffuse_roughness: 'Diffuse roughness',
  specular_roughness_anisotropy: 'Grain',
  anisotropy: 'Grain',
  coat_roughness_anisotropy: 'Coat grain',
  transmission_scatter: 'Scattering at depth',
  transmission_scatter_anisotropy: 'Forward scattering',
  transmission_dispersion_scale: 'Dispersion',
  transmission_dispersion_abbe_number: 'Abbe number',
  subsurface_weight: 'Below the surface',
  subsurface_color: 'Colour below',
  subsurface_radius: 'Mean free path',
  subsurface_radius_scale: 'Path by colour',
  subsurface_scatter_anisotropy: 'Forward scattering',
  fuzz_weight: 'Fuzz',
  fuzz_color: 'Fuzz colour',
  fuzz_roughness: 'Fuzz roughness',
  thin_film_weight: 'Film',
  thin_film_thickness: 'Film thickness',
  thin_film_ior: 'Film IOR',
  film_thickness: 'Film thickness',
  film_ior: 'Film IOR',
  geometry_opacity: 'Opacity',
  geometry_thin_walled: 'Thin sheet',
  geometry_tangent: 'Grain along',
  geometry_coat_tangent: 'Coat grain along',
  tangent: 'Grain along',
  color: 'Colour',
  depth: 'Depth',
  emission_luminance: 'Luminance',
  emission_color: 'Emission',
  geometry_normal: 'Normal',
  geometry_coat_normal: 'Coat normal',
  inlow: 'In, low',
  inhigh: 'In, high',
  outlow: 'Out, low',
  outhigh: 'Out, high',
  doclamp: 'Clamp',
})

export const labelOf = (name: string): string =>
  LABELS[name] ?? name.charAt(0).toUpperCase() + name.slice(1).replace(/_/g, ' ')

/**
 * Lengths among the inputs: the unit each is shown in, its range in metres, and the metres of one in the document
 * where that is not one.
 */
const LENGTHS = table<[unit: string, low: number, high: number, own?: number]>({
  radius: ['mm', 1e-4, 0.02],
  transmission_depth: ['mm', 0, 0.1],
  depth: ['mm', 0, 0.1],
  subsurface_radius: ['mm', 0, 0.02],
  thin_film_thickness: ['nm', 0, 1e-6, 1e-6],
  film_thickness: ['nm', 0, 6e-7, 1e-9],
  thinfilm_thickness: ['nm', 0, 1e-6, 1e-9],
})

/** Metres of one in the document, for a length that the standard counts in another unit. */
export const ownUnit = (input: InputDefinition): number =>
  input.type === 'float' ? (LENGTHS[input.name]?.[3] ?? 1) : 1

/** How a number field shows an input. */
export function rangeOf(input: InputDefinition): { quantity: string; unit: string; low: number; high: number } {
  const length = input.type === 'float' ? LENGTHS[input.name] : undefined
  if (length) return { quantity: 'length', unit: length[0], low: length[1], high: length[2] }
  const n = (t: string | undefined) => (t !== undefined && t !== '' && !t.includes(',') ? Number(t) : undefined)
  const low = n(input.uisoftmin) ?? n(input.uimin)
  const high = n(input.uisoftmax) ?? n(input.uimax)
  if (/ior$/.test(input.name)) return { quantity: 'plain', unit: '', low: 1, high: 3 }
  return {
    quantity: 'plain',
    unit: '',
    low: low ?? (input.type === 'float' && high === undefined ? 0 : -Infinity),
    high: high ?? (input.type === 'float' ? 1 : Infinity),
  }
}

/** Inputs of a surface shown to the artist, by what they do to light. */
export const GROUPS: readonly { title: string; inputs: readonly string[] }[] = [
  {
    title: 'Body',
    inputs: [
      'metal',
      'glass',
      'base_color',
      'base_metalness',
      'base_diffuse_roughness',
      'coat_color',
      'color',
      'depth',
      'dispersion',
      'transmission_weight',
      'transmission_color',
      'transmission_depth',
      'transmission_scatter',
      'transmission_scatter_anisotropy',
      'transmission_dispersion_scale',
      'transmission_dispersion_abbe_number',
      'subsurface_weight',
      'subsurface_color',
      'subsurface_radius',
      'subsurface_radius_scale',
      'subsurface_scatter_anisotropy',
      'emission_luminance',
      'emission_color',
    ],
  },
  {
    title: 'Surface',
    inputs: [
      'roughness',
      'specular_roughness',
      'anisotropy',
      'specular_roughness_anisotropy',
      'specular_ior',
      'specular_weight',
      'specular_color',
      'fuzz_weight',
      'fuzz_color',
      'fuzz_roughness',
      'coat_roughness',
      'coat_roughness_anisotropy',
      'coat_ior',
      'coat_darkening',
    ],
  },
  {
    title: 'Film',
    inputs: ['thin_film_weight', 'thin_film_thickness', 'thin_film_ior', 'film_thickness', 'film_ior'],
  },
  {
    title: 'Relief',
    inputs: [
      'geometry_normal',
      'normal',
      'geometry_tangent',
      'tangent',
      'geometry_coat_normal',
      'geometry_coat_tangent',
    ],
  },
  { title: 'Cover', inputs: ['coat_weight', 'geometry_opacity', 'geometry_thin_walled'] },
]
