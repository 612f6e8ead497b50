/**
 * The working memory of this room: the one surface that a thread looks at, and what is asked about it. The render
 * loop fills it, scatters from it and moves on, without allocating. Hot modules bind its arrays to constants of
 * their own when they are loaded.
 *
 * Arrays and not arguments, because numbers passed to calls that the engine does not inline are boxed, one
 * allocation each. The words of each array have their names in `slots.ts`.
 *
 * No decision (lobe choice, direction, roulette) may depend on the wavelengths; they look at the companion only.
 * Where a direction does depend on the wavelength (dispersion), the path goes on with one wavelength alone, and
 * without the companion.
 */
import { POINT_STRIDE } from '../point/slots'
import { OPENPBR_NUMBERS } from './openpbr-inputs'
import { ALBEDO, ASK, CHANNELS, FACET, LAYER, LOBE, MAX_LAYERS, MAX_LOBES, SPEC } from './slots'

export const memory = {
  /** The lobes, {@link LOBE}.stride words each; and the layers that they lie under, {@link LAYER}.stride each. */
  lobes: new Float64Array(MAX_LOBES * LOBE.stride),
  layers: new Float64Array(MAX_LAYERS * LAYER.stride),

  /**
   * Curves B of the path's wavelengths, three a lane; grid index of each lane. Loaded before a surface is begun.
   */
  basis: new Float64Array(12),
  lane: new Int32Array(4),

  /** What the next lobe or layer is to be ({@link SPEC}): filled before each push, kept by none. */
  spec: new Float64Array(SPEC.size),
  /** Cosines of a ray's meetings with a sawtooth; what is left after them, and in the mean over rays, per channel. */
  meetings: new Float64Array(8),
  once: new Float64Array(CHANNELS),
  coloured: new Float64Array(CHANNELS),
  /** Normal made fit for the viewer by `fitNormal`. */
  fit: new Float64Array(3),

  /** Radiance that the surface itself sends towards the viewer, per channel. */
  emission: new Float64Array(CHANNELS),
  /** What fills the inside of a glass: extinction per channel, 1/m; its single-scattering albedo per channel. */
  interior: new Float64Array(CHANNELS),
  interiorAlbedo: new Float64Array(CHANNELS),
  /** The same of what scatters below an opaque surface. */
  below: new Float64Array(CHANNELS),
  belowAlbedo: new Float64Array(CHANNELS),

  /** Questions and answers ({@link ASK}) of evaluation and sampling. */
  ask: new Float64Array(ASK.size),
  /** Result of both: f·|cos θi| per channel; after a sample divided by the density. */
  value: new Float64Array(CHANNELS),
  /** What passes each layer from the light asked for, cumulative from the top: mean, and tint per channel. */
  passIn: new Float64Array(MAX_LAYERS),
  tintIn: new Float64Array(MAX_LAYERS * CHANNELS),

  /** The microfacet under way ({@link FACET}). */
  facet: new Float64Array(FACET.size),
  /** Fresnel's factor of a lobe's interface per channel; of the film on a layer. */
  fresnel: new Float64Array(CHANNELS),
  /** What a face whose channels differ lets through, per channel. */
  passes: new Float64Array(CHANNELS),
  layerFresnel: new Float64Array(CHANNELS),
  /** Question and answer of the albedo tables ({@link ALBEDO}). */
  albedo: new Float64Array(ALBEDO.size),

  /** Local frame of the lobe that is sampled: any two directions square to its normal, or its grain. */
  frame: new Float64Array(6),
  /** Horizontal direction towards the viewer about a lobe's normal, and the one across it. */
  towards: new Float64Array(6),

  /** Cosine and sine of a drawn angle; a half vector drawn in a local frame. */
  circle: new Float64Array(2),
  sampledNormal: new Float64Array(3),
  /** Where between the corners of the tables of rough glass a question lies. */
  cell: new Float64Array(3),
  /** How light that met the facets of rough glass again is parted. */
  parted: new Float64Array(2),
  /** The last question about an albedo and its answer: a layer and the reflection above it ask the same. */
  lastAlbedo: new Float64Array(ALBEDO.size).fill(NaN),
  /** A shading point of which only the viewer and the geometric normal are known. */
  seenFrom: new Float64Array(POINT_STRIDE),

  /** Values of one open surface, colours and vectors unrolled; see `openpbr-inputs.ts`. */
  openPbr: new Float64Array(OPENPBR_NUMBERS),
  /** What its base or its coat is made of: share of the surface, α, index, and coverage or what a film lies under. */
  openPbrBase: new Float64Array(4),
}

/**
 * Counters and geometry of the current surface, begun by `beginSurfaceAt`. Vectors are unit; `g` faces the viewer.
 */
export const now = {
  lobes: 0,
  layers: 0,
  /** Whether the viewer stands on the outer side. */
  outside: true,
  ox: 0.5,
  oy: 0.5,
  oz: 0.5,
  gx: 0.5,
  gy: 0.5,
  gz: 0.5,
  /** The surface's own normal before any relief, smooth over its triangles. */
  sx: 0.5,
  sy: 0.5,
  sz: 0.5,
  /** Layer of the coat on what is pushed now, seen from either side; −1 for none. */
  coat: -1,
  /** Index of the glass, 0 for an opaque surface. */
  glass: 0.5,
  /** What the interior does: 0 nothing, 1 absorbs, 2 scatters; mean cosines of both media. */
  fills: 0,
  interiorG: 0.5,
  belowG: 0.5,
  /** Depth at which the colours in `memory.interior` are seen, while they are not extinctions yet; 0 afterwards. */
  fillDepth: 0.5,
  /** Index of what lies on the outer side; 1 but where media are nested. */
  surround: 1.5,
  /** Lane that refracts where indices depend on the wavelength. Set with the wavelengths. */
  hero: 0,
  /** Whether a lobe disperses: 0 no, 1 only a smooth one, 2 a rough one. */
  disperses: 0,
  /** Whether light that walked below the surface leaves it here: only what it leaves through is pushed. */
  leaving: false,
  /** Whether the surface is a thin sheet, without an inside. */
  thin: false,
  /** Whether any lobe answers light from a given direction. Known once the surface is finished. */
  answers: true,
  /** Whether any of them answers light that comes from behind. */
  behind: true,
  /** Whether the light asked for lies on the viewer's side. */
  reflected: true,
  /** Whether light below the geometry but above the smooth surface counts as on the viewer's side. */
  lenient: false,
  /** Class of the only lobes that are evaluated; −1 for all. */
  only: -1,
  /** Lobes dropped because there was no room: a fault to report, never silent. */
  dropped: 0,
}

/** Result of a sample: new direction, unit, and what kind of turn it was. */
export const scattered = {
  x: 0.5,
  y: 0.5,
  z: 0.5,
  pdf: 0.5,
  /** One direction alone: no drawn light could have met it. */
  smooth: false,
  transmitted: false,
  /** Number of the lobe's kind, and what becomes of light that passes it, see `lobe.ts`. */
  kind: 0,
  passage: 0,
  alpha: 0.5,
  /** See {@link CLASS}. */
  class: 0,
}
