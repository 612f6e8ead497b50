/** Surfaces of the standard as tests set them. */
import { beginSurface } from '../surface/begin'
import { finishSurface } from '../surface/finish'
import { inputs, pushOpenPbr } from '../surface/openpbr'
import { AT, type OpenPbrInput } from '../surface/openpbr-inputs'

/** Defaults of the specification, but for a base whose components differ, rough enough to integrate. */
const DEFAULTS: Partial<Record<OpenPbrInput, number[]>> = {
  base_weight: [1],
  base_color: [0.6, 0.3, 0.2],
  specular_weight: [1],
  specular_color: [1, 1, 1],
  specular_roughness: [0.4],
  specular_ior: [1.5],
  transmission_color: [1, 1, 1],
  transmission_dispersion_abbe_number: [20],
  subsurface_color: [0.8, 0.8, 0.8],
  subsurface_radius: [1],
  subsurface_radius_scale: [1, 0.5, 0.25],
  fuzz_color: [1, 1, 1],
  fuzz_roughness: [0.5],
  coat_color: [0.9, 0.6, 0.4],
  coat_roughness: [0.2],
  coat_ior: [1.6],
  coat_darkening: [1],
  thin_film_thickness: [0.5],
  thin_film_ior: [1.4],
  emission_color: [1, 1, 1],
  geometry_opacity: [1],
  geometry_normal: [0, 0, 1],
  geometry_coat_normal: [0, 0, 1],
  geometry_tangent: [0.8, 0.6, 0],
  geometry_coat_tangent: [1, 0, 0],
}
export type Changes = Partial<Record<OpenPbrInput, number | number[]>>

/** Sets all inputs: defaults, and what differs from them. */
export const set = (changes: Changes) => {
  inputs.fill(0)
  for (const [k, v] of Object.entries({ ...DEFAULTS, ...changes })) inputs.set([v].flat(), AT[k as OpenPbrInput])
}
/** Direction by its angles from the normal and about it. */
export const dir = (t: number, p: number) =>
  [Math.sin(t) * Math.cos(p), Math.sin(t) * Math.sin(p), Math.cos(t)] as const
/** Makes the surface that was {@link set}, seen from a direction. */
export const see = (o: readonly number[]) => {
  beginSurface(o[0]!, o[1]!, o[2]!, 0, 0, 1)
  pushOpenPbr(-1, 1)
  finishSurface()
}

export const grey = (x: number): [number, number, number] => [x, x, x]
/** Metal of a colour. */
export const metal = (colour: number, roughness: number): Changes => ({
  base_metalness: 1,
  base_color: grey(colour),
  specular_weight: 1,
  specular_color: grey(1),
  specular_roughness: roughness,
})
