/**
 * The surface at one shading point: lobes under layers, as a compiled network pushes them.
 *
 * There is one current surface a thread, held in flat arrays of this module: the render loop fills it, scatters
 * from it and moves on, without allocating. Seven channels ride along: four wavelengths (0–3) and the RGB
 * companion (4–6), see `colour/wavelengths.ts`. No decision (lobe choice, direction, roulette) may depend on the
 * wavelengths; they look at the companion only. Where a direction does depend on the wavelength
 * (dispersion), the path goes on with one wavelength alone, and without the companion.
 *
 * `lobes.ts` pushes lobes, `layers.ts` what they lie under, `finish.ts` closes the surface; `evaluate.ts` and
 * `sample.ts` scatter from it.
 */
import { POINT, POINT_STRIDE } from '../network/shading-point'

/** Number of channels. */
export const CHANNELS = 7
export const MAX_LOBES = 32
export const MAX_LAYERS = 16

/**
 * Kinds of lobes. Those up to GLASS are plain; the microfacet ones among them may carry a film, a grain or
 * dispersion.
 */
export const DIFFUSE = 0
export const REFLECT = 1
export const CONDUCTOR = 2
export const METAL = 3
export const GLASS = 4
export const SHEET = 5
export const ROUGH_DIFFUSE = 6
export const AGAIN_DIFFUSE = 7
export const AGAIN_METAL = 8
export const FUZZ = 9
export const TRANSLUCENT = 10
export const WALK = 11
export const THROUGH = 12
export const AGAIN_GLASS = 13
/**
 * What a lobe counts as when radiance is kept by lobe ({@link L_CLASS}); what passes through glass counts as
 * transmission whatever its lobe says.
 */
export const CLASS = { diffuse: 0, specular: 1, transmission: 2, coat: 3, subsurface: 4 } as const

/** Words of a lobe in {@link lobes}. */
export const L_KIND = 0
export const L_LAYER = 1
export const L_W = 2
export const L_ALPHA = 9
export const L_ETA = 10
export const L_NX = 11
export const L_NY = 12
export const L_NZ = 13
export const L_COS = 14
export const L_PICK = 15
export const L_TABLE = 16
export const L_F0 = 17
export const L_EDGE = 24
export const L_NORM = 31
export const L_ALBEDO = 32
export const L_CLASS = 33
/** Whether the lobe has a grain; α along and across it; the grain and what is across it, unit. */
export const L_GRAIN = 34
export const L_AX = 35
export const L_AY = 36
export const L_TX = 37
export const L_BX = 40
/** Share of a film on the lobe's interface, 0 for none; its index and its optical way 2·n·d, nm. */
export const L_FILM = 43
export const L_FILM_ETA = 44
export const L_FILM_WAY = 45
/**
 * Whether Fresnel's factor differs between the channels of a dielectric (film, dispersion); then dispersion:
 * L_EDGE holds the index of each channel.
 */
export const L_SPECTRAL = 46
/**
 * Exponent of a metal's rise towards grazing angles, 0 for the plain form (five, to white); what it rises to, per
 * channel.
 */
export const L_EXPONENT = 47
export const L_GRAZE = 48
/**
 * Share of the light that leaves the facets after one meeting, as far as a lobe of its own carries the rest; else
 * 1.
 */
export const L_ONCE = 55
export const L_STRIDE = 56
/** Words of a layer in {@link layers}. Tint and pass are cumulative from the top. */
export const Y_PARENT = 0
export const Y_WEIGHT = 1
export const Y_ALPHA = 2
export const Y_ETA = 3
export const Y_NX = 4
export const Y_NY = 5
export const Y_NZ = 6
export const Y_TINTED = 7
export const Y_LOG = 8
export const Y_PASS = 15
export const Y_TINT = 16
export const Y_AVERAGE = 23
/**
 * How it reflects ({@link LAYER}); its film as of a lobe; how the mean that passes it compares to the same of each
 * channel; what a rise rises from and to.
 */
export const Y_KIND = 24
export const Y_FILM = 25
export const Y_FILM_ETA = 26
export const Y_FILM_WAY = 27
export const Y_EVEN = 28
export const Y_FROM = 35
export const Y_TO = 36
export const Y_STRIDE = 37
/** How a layer reflects: as a dielectric, as fuzz, by a rise towards grazing angles. */
export const LAYER = { dielectric: 0, fuzz: 1, rise: 2 } as const

export const lobes = new Float64Array(MAX_LOBES * L_STRIDE)
export const layers = new Float64Array(MAX_LAYERS * Y_STRIDE)
/** Curves B of the path's wavelengths: three a lane. */
export const basis = new Float64Array(12)
/** Grid index of each lane. */
export const lane = new Int32Array(4)
/** Radiance the surface itself sends towards the viewer, per channel. */
export const emission = new Float64Array(CHANNELS)
/** What fills the inside, set by glass: extinction per channel, 1/m; its single-scattering albedo per channel. */
export const interior = new Float64Array(CHANNELS)
export const interiorAlbedo = new Float64Array(CHANNELS)
/** The same of what scatters below an opaque surface ({@link WALK}). */
export const below = new Float64Array(CHANNELS)
export const belowAlbedo = new Float64Array(CHANNELS)

/** Counters and geometry of the current surface. Vectors are unit; `g` faces the viewer. */
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
  /** Index of the glass, 0 for an opaque surface. */
  glass: 0.5,
  /** What the interior does: 0 nothing, 1 absorbs, 2 scatters; mean cosines of both media. */
  fills: 0,
  interiorG: 0.5,
  belowG: 0.5,
  /** Depth at which the colours in {@link interior} are seen, while they are not extinctions yet; 0 afterwards. */
  fillDepth: 0.5,
  /** Index of what lies on the outer side; 1 but where media are nested. Set before the surface is pushed. */
  surround: 1.5,
  /** Lane that refracts where indices depend on the wavelength. Set before the surface is pushed. */
  hero: 0,
  /** Whether a lobe disperses: 0 no, 1 only a smooth one, 2 a rough one. */
  disperses: 0,
  /** Whether light that walked below the surface leaves it here: only what it leaves through is pushed. */
  leaving: false,
  /** Whether the surface is a thin sheet, without an inside. */
  thin: false,
  /**
   * Whether any lobe answers light from a given direction: smooth ones, and those that walk or pass straight, do
   * not. Known once the surface is closed.
   */
  answers: true,
  /** Lobes dropped because there was no room: a fault to report, never silent. */
  dropped: 0,
}

/** Starts a new surface seen from direction o (unit, away from it), with geometric normal g on the outer side. */
export function beginSurface(ox: number, oy: number, oz: number, gx: number, gy: number, gz: number): void {
  seenFrom.set([-ox, -oy, -oz], POINT.view)
  seenFrom.set([gx, gy, gz], POINT.geometric)
  beginSurfaceAt(seenFrom)
}
const seenFrom = new Float64Array(POINT_STRIDE)

/** {@link beginSurface} at a shading point, seen by the ray that found it. */
export function beginSurfaceAt(S: Float64Array): void {
  now.lobes = 0
  now.layers = 0
  now.glass = 0
  now.fills = 0
  now.fillDepth = 0
  now.disperses = 0
  now.thin = false
  now.surround = 1
  now.leaving = false
  const ox = -S[POINT.view]!
  const oy = -S[POINT.view + 1]!
  const oz = -S[POINT.view + 2]!
  const gx = S[POINT.geometric]!
  const gy = S[POINT.geometric + 1]!
  const gz = S[POINT.geometric + 2]!
  now.outside = ox * gx + oy * gy + oz * gz >= 0
  const s = now.outside ? 1 : -1
  now.ox = ox
  now.oy = oy
  now.oz = oz
  now.gx = gx * s
  now.gy = gy * s
  now.gz = gz * s
  emission[0] = 0
  emission[1] = 0
  emission[2] = 0
  emission[3] = 0
  emission[4] = 0
  emission[5] = 0
  emission[6] = 0
}

/** Writes the seven channels of an RGB colour to `target[o …]`. */
export function spread(target: Float64Array, o: number, r: number, g: number, b: number): void {
  target[o] = basis[0]! * r + basis[1]! * g + basis[2]! * b
  target[o + 1] = basis[3]! * r + basis[4]! * g + basis[5]! * b
  target[o + 2] = basis[6]! * r + basis[7]! * g + basis[8]! * b
  target[o + 3] = basis[9]! * r + basis[10]! * g + basis[11]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}

/** Normal made fit for the viewer by {@link fitNormal}. */
export const fit = new Float64Array(3)

/**
 * Turns a shading normal so that it faces the viewer and the mirror direction leaves on the same side of the
 * geometry: the smallest bend that does it (Keller et al. 2017, appendix A.3).
 */
export function fitNormal(): void {
  let nx = Q[5]!
  let ny = Q[6]!
  let nz = Q[7]!
  const { ox, oy, oz, gx, gy, gz } = now
  if (nx * gx + ny * gy + nz * gz < 0) {
    nx = -nx
    ny = -ny
    nz = -nz
  }
  const no = nx * ox + ny * oy + nz * oz
  const rx = 2 * no * nx - ox
  const ry = 2 * no * ny - oy
  const rz = 2 * no * nz - oz
  const below = rx * gx + ry * gy + rz * gz
  const EPSILON = 1e-4
  if (below < EPSILON || no < EPSILON) {
    // mirror direction pushed onto the horizon, normal half way between it and the viewer
    const push = EPSILON - Math.min(below, 0) * 1.0001
    let tx = rx + push * gx
    let ty = ry + push * gy
    let tz = rz + push * gz
    const l = 1 / Math.sqrt(tx * tx + ty * ty + tz * tz)
    tx *= l
    ty *= l
    tz *= l
    nx = ox + tx
    ny = oy + ty
    nz = oz + tz
    let m = Math.sqrt(nx * nx + ny * ny + nz * nz)
    if (m < 1e-6) {
      nx = gx
      ny = gy
      nz = gz
      m = 1
    }
    nx /= m
    ny /= m
    nz /= m
  }
  fit[0] = nx
  fit[1] = ny
  fit[2] = nz
}

/**
 * Arguments of the functions that end in Q: 0–2 weight or reflectance, 3 α, 4 η, 5–7 normal, 8 coverage of a
 * layer, 9–11 its tint, 12 anisotropy of the roughness, 13–15 direction of the grain, 16 share of a film, 17
 * its index, 18 its thickness (nm), 19 index of what it lies under, 20–22 colour of a metal at grazing angles, 23
 * exponent of the rise towards it (0: five, to white). An array, because numbers passed to calls that the engine
 * does not inline are boxed, one allocation each.
 */
export const Q = new Float64Array(24)

/** Fills Q for a plain lobe: no grain, no film, a plain rise. */
export function setQ(
  wr: number,
  wg: number,
  wb: number,
  alpha: number,
  eta: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  Q[0] = wr
  Q[1] = wg
  Q[2] = wb
  Q[3] = alpha
  Q[4] = eta
  Q[5] = nx
  Q[6] = ny
  Q[7] = nz
  Q[12] = 0
  Q[16] = 0
  Q[23] = 0
}
