/** The inputs of OpenPBR Surface that are supported, in the order in which networks pass their values. */
export const OPENPBR_INPUTS = [
  'base_weight', 'base_color', 'base_metalness', 'specular_weight', 'specular_color', 'specular_roughness', 'specular_ior',
  'transmission_weight', 'transmission_color', 'transmission_depth',
  'coat_weight', 'coat_color', 'coat_roughness', 'coat_ior', 'coat_darkening',
  'emission_luminance', 'emission_color', 'geometry_normal', 'geometry_coat_normal',
] as const
