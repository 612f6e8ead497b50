/**
 * The 41 inputs of OpenPBR Surface 1.1, in the order of the specification, which is that in which networks pass
 * their values.
 */
export const OPENPBR_INPUTS = [
  'base_weight',
  'base_color',
  'base_diffuse_roughness',
  'base_metalness',
  'specular_weight',
  'specular_color',
  'specular_roughness',
  'specular_ior',
  'specular_roughness_anisotropy',
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
  'fuzz_weight',
  'fuzz_color',
  'fuzz_roughness',
  'coat_weight',
  'coat_color',
  'coat_roughness',
  'coat_roughness_anisotropy',
  'coat_ior',
  'coat_darkening',
  'thin_film_weight',
  'thin_film_thickness',
  'thin_film_ior',
  'emission_luminance',
  'emission_color',
  'geometry_opacity',
  'geometry_thin_walled',
  'geometry_normal',
  'geometry_coat_normal',
  'geometry_tangent',
  'geometry_coat_tangent',
] as const

export type OpenPbrInput = (typeof OPENPBR_INPUTS)[number]

/** Inputs of more than one number: colours and vectors. */
const THREE = /color$|scatter$|radius_scale$|normal$|tangent$/

/** Where each input's first number stands. */
export const AT = {} as Record<OpenPbrInput, number>
let count = 0
for (const name of OPENPBR_INPUTS) {
  AT[name] = count
  count += THREE.test(name) ? 3 : 1
}
/** Numbers of all inputs together. */
export const OPENPBR_NUMBERS = count

/**
 * Inputs that mean nothing while another one is left at its default, by that one: a network that does not mention
 * it does not pass them.
 */
export const ONLY_WITH: Readonly<Partial<Record<OpenPbrInput, readonly OpenPbrInput[]>>> = {
  specular_roughness_anisotropy: ['geometry_tangent'],
  transmission_weight: [
    'transmission_color',
    'transmission_depth',
    'transmission_scatter',
    'transmission_scatter_anisotropy',
    'transmission_dispersion_scale',
    'transmission_dispersion_abbe_number',
  ],
  subsurface_weight: [
    'subsurface_color',
    'subsurface_radius',
    'subsurface_radius_scale',
    'subsurface_scatter_anisotropy',
  ],
  fuzz_weight: ['fuzz_color', 'fuzz_roughness'],
  coat_weight: [
    'coat_color',
    'coat_roughness',
    'coat_roughness_anisotropy',
    'coat_ior',
    'coat_darkening',
    'geometry_coat_normal',
    'geometry_coat_tangent',
  ],
  coat_roughness_anisotropy: ['geometry_coat_tangent'],
  thin_film_weight: ['thin_film_thickness', 'thin_film_ior'],
  emission_luminance: ['emission_color'],
}
