/**
 * Names of the numbers that the surface's working memory (`memory.ts`) holds. The build replaces them by the
 * numbers themselves (`scripts/inline-slots.mjs`).
 */

/** Number of channels: four wavelengths (0–3), then the RGB companion (4–6), see `colour/wavelengths.ts`. */
export const CHANNELS = 7
export const MAX_LOBES = 32
export const MAX_LAYERS = 16

/** Words of a lobe in `memory.lobes`. */
export const LOBE = {
  kind: 0,
  /** Number of the layer that it lies under, −1 for none. */
  layer: 1,
  /** Weight per channel. */
  weight: 2,
  /** GGX α, or the roughness of lobes that are no microfacets. */
  alpha: 9,
  /** Index of the far side over that of the near one; lobes of light that meets facets again keep a scale here. */
  eta: 10,
  nx: 11,
  ny: 12,
  nz: 13,
  /** Cosine of the viewer. */
  cosine: 14,
  /** Chance with which it is picked, of all lobes; known once the surface is finished. */
  pick: 15,
  /** Number of a measured metal; lobes of light that meets facets again keep a mean here. */
  table: 16,
  /** Reflectance at normal incidence per channel; what colours light that passes. */
  f0: 17,
  /** Edge tint of a metal per channel; index of each channel of glass that disperses; else the lobe's own. */
  edge: 24,
  /** Above 0 for diffuse lobes: what the light that passed the layers above twice is scaled by. */
  norm: 31,
  albedo: 32,
  /** What it counts as when radiance is kept by lobe, see {@link CLASS}. */
  class: 33,
  /** Whether it has a grain; α along and across it; the grain and what is across it, unit. */
  grain: 34,
  ax: 35,
  ay: 36,
  tx: 37,
  bx: 40,
  /** Share of a film on its interface, 0 for none; the film's index and its optical way 2·n·d, nm. */
  film: 43,
  filmEta: 44,
  filmWay: 45,
  /** Whether Fresnel's factor differs between the channels of a dielectric (film, dispersion). */
  spectral: 46,
  /** Exponent of a metal's rise towards grazing angles, 0 for the plain form (five, to white). */
  exponent: 47,
  /** What a metal rises to, per channel. */
  graze: 48,
  /** Share of the light that leaves the facets after one meeting, as far as a lobe of its own carries the rest. */
  once: 55,
  /** Under a coat: how squared sines shrink on the way there; 1 for none. */
  shrink: 56,
  /** Of a glass: coverage of a coat on its outer side, 0 for none; its index over that outside; log of its tint. */
  coat: 57,
  coatEta: 58,
  coatLog: 59,
  stride: 66,
} as const

/** What a lobe counts as when radiance is kept by lobe; what passes glass counts as transmission in any case. */
export const CLASS = { diffuse: 0, specular: 1, transmission: 2, coat: 3, subsurface: 4 } as const

/** Words of a layer in `memory.layers`. Tint and pass are cumulative from the top. */
export const LAYER = {
  parent: 0,
  /** Coverage. */
  weight: 1,
  alpha: 2,
  eta: 3,
  nx: 4,
  ny: 5,
  nz: 6,
  tinted: 7,
  /** Logarithm of what light that goes in and out at normal incidence keeps, per channel. */
  log: 8,
  pass: 15,
  tint: 16,
  /** Cosine mean of what passes it and those above. */
  average: 23,
  /** How it reflects, see {@link LAYER_KIND}. */
  kind: 24,
  /** Its film, as of a lobe. */
  film: 25,
  filmEta: 26,
  filmWay: 27,
  /** How the mean that passes it compares to the same of each channel. */
  even: 28,
  /** What a rise rises from and to. */
  from: 35,
  to: 36,
  /** Absolute index of what lies right below it; how squared sines shrink on the way to it. */
  medium: 37,
  shrink: 38,
  stride: 39,
} as const

/** How a layer reflects: as a dielectric, as fuzz, by a rise towards grazing angles. */
export const LAYER_KIND = { dielectric: 0, fuzz: 1, rise: 2 } as const

/** Words of `memory.spec`: what the next lobe or layer is to be. */
export const SPEC = {
  /** Weight or reflectance, RGB. */
  weight: 0,
  alpha: 3,
  eta: 4,
  normal: 5,
  /** Coverage of a layer, and its tint: what it does to light that goes in and out at normal incidence. */
  coverage: 8,
  tint: 9,
  /** Anisotropy of the roughness, 0 for none, and the direction of the grain. */
  anisotropy: 12,
  grain: 13,
  /** Share of a film, 0 for none; its index, its thickness (nm). */
  film: 16,
  filmIndex: 17,
  filmThickness: 18,
  /** Colour of a metal at grazing angles, and the exponent of the rise towards it; 0: five, to white. */
  grazing: 19,
  exponent: 22,
  size: 23,
} as const

/** Words of `memory.ask`: what the hot functions of this room are asked, and what they answer. */
export const ASK = {
  /** Direction that light comes from, unit. */
  x: 0,
  y: 1,
  z: 2,
  /** Answer: density of that direction, per steradian. */
  pdf: 3,
  /** Draws of a sample: which lobe or side, and two for the direction. */
  choose: 4,
  u: 5,
  v: 6,
  /** What accumulate multiplies by. */
  factor: 7,
  size: 8,
} as const

/** Words of `memory.facet`: one microfacet and the light that meets it. */
export const FACET = {
  /** Cosine between the viewer and the facet: what Fresnel's factors are asked for. */
  cosine: 0,
  /** Visible normals' D over four times the viewer's cosine; the same with both maskings. */
  visible: 1,
  shaped: 2,
  /** Direction of the light, and its cosine at the lobe's normal. */
  x: 3,
  y: 4,
  z: 5,
  light: 6,
  /** Half vector and its cosine; D, Λ of the viewer, Λ of the light. */
  hx: 7,
  hy: 8,
  hz: 9,
  ch: 10,
  D: 11,
  lambdaO: 12,
  lambdaI: 13,
  size: 14,
} as const

/** Words of `memory.albedo`: question (cosine, α, η) and answer of `askAlbedo`. */
export const ALBEDO = { cosine: 0, alpha: 1, eta: 2, answer: 3, size: 4 } as const
