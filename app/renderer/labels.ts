import type { InputDefinition } from '../../core/nodes/definitions'

/** Names on the screen for inputs whose standard names are too long for a row. */
const LABELS: Readonly<Record<string, string>> = {
  base_color: 'Colour', base_weight: 'Amount', base_metalness: 'Metalness', specular_weight: 'Specular', specular_color: 'Specular tint', specular_roughness: 'Roughness', specular_ior: 'IOR',
  transmission_weight: 'Transmission', transmission_color: 'Colour at depth', transmission_depth: 'Depth', coat_weight: 'Coverage', coat_color: 'Tint', coat_roughness: 'Roughness', coat_ior: 'IOR', coat_darkening: 'Darkening',
  emission_luminance: 'Luminance', emission_color: 'Emission', geometry_normal: 'Normal', geometry_coat_normal: 'Coat normal',
  inlow: 'In, low', inhigh: 'In, high', outlow: 'Out, low', outhigh: 'Out, high', doclamp: 'Clamp',
}

export const labelOf = (name: string): string => LABELS[name] ?? name.charAt(0).toUpperCase() + name.slice(1).replace(/_/g, ' ')

/** Lengths among the inputs, and the unit each is shown in. */
const LENGTHS: Readonly<Record<string, [unit: string, low: number, high: number]>> = { radius: ['mm', 1e-4, 0.02], transmission_depth: ['mm', 0, 0.1] }

/** How a number field shows an input. */
export function rangeOf(input: InputDefinition): { quantity: string, unit: string, low: number, high: number } {
  const length = LENGTHS[input.name]
  if (length) return { quantity: 'length', unit: length[0], low: length[1], high: length[2] }
  const n = (t: string | undefined) => t !== undefined && t !== '' && !t.includes(',') ? Number(t) : undefined
  const low = n(input.uisoftmin) ?? n(input.uimin), high = n(input.uisoftmax) ?? n(input.uimax)
  if (/ior$/.test(input.name)) return { quantity: 'plain', unit: '', low: 1, high: 3 }
  return { quantity: 'plain', unit: '', low: low ?? (input.type === 'float' && high === undefined ? 0 : -Infinity), high: high ?? (input.type === 'float' ? 1 : Infinity) }
}

/** Inputs of a surface shown to the artist, by what they do to light. */
export const GROUPS: readonly { title: string, inputs: readonly string[] }[] = [
  { title: 'Body', inputs: ['metal', 'base_color', 'base_metalness', 'coat_color', 'transmission_weight', 'transmission_color', 'transmission_depth', 'emission_luminance', 'emission_color'] },
  { title: 'Surface', inputs: ['roughness', 'specular_roughness', 'specular_ior', 'specular_weight', 'specular_color', 'coat_roughness', 'coat_ior', 'coat_darkening'] },
  { title: 'Relief', inputs: ['geometry_normal', 'normal'] },
  { title: 'Cover', inputs: ['coat_weight'] },
]
