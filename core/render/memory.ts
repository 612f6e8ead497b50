/**
 * The working memory of this room: the paths of the tile under way, one set a thread, in flat arrays by path. Hot
 * modules bind them to constants of their own when they are loaded.
 */
import { MAX_FIELDS, POINT_STRIDE } from '../point/slots'
import { CHANNELS } from '../surface/slots'
import { createRayBatch } from '../trace/cast'
import { BATCH } from './film'

/** Glasses that may lie in each other; deeper ones are not told apart. */
export const DEEPEST = 6

/** Pairs of dimensions that a tile's draws have points of their own for; a power of two. */
export const DRAW_PAIRS = 4096

const pointData = new Float64Array(BATCH * POINT_STRIDE)

export const memory = {
  // --- where each path stands
  origin: new Float64Array(BATCH * 3),
  direction: new Float64Array(BATCH * 3),
  /** Share of the radiance found that reaches the pixel; radiance found so far; per channel. */
  throughput: new Float64Array(BATCH * CHANNELS),
  radiance: new Float64Array(BATCH * CHANNELS),
  /** Its cone, see `cone.ts`: radius where it is, metres; growth of it over the length to come. */
  coneRadius: new Float64Array(BATCH),
  coneSpread: new Float64Array(BATCH),
  /** Density with which its direction was drawn; whether that direction was the only one. */
  density: new Float64Array(BATCH),
  smoothBefore: new Uint8Array(BATCH),
  /** How the camera still looks along it, see VIEW. */
  view: new Uint8Array(BATCH),
  /** Bounces of both kinds; openings are none. */
  opaque: new Uint16Array(BATCH),
  specular: new Uint16Array(BATCH),

  // --- its draws and wavelengths
  seeds: new Int32Array(BATCH),
  places: new Int32Array(BATCH),
  /** Grid indices of the wavelengths, four a path. */
  lanes: new Int32Array(BATCH * 4),
  /** Lane that refracts where indices depend on the wavelength, and whether the path carries it alone. */
  hero: new Uint8Array(BATCH),
  alone: new Uint8Array(BATCH),

  // --- what it knows of lights where it scattered last
  /** Sum of the estimates; the part, and the factor there on lights that it does not see. */
  lightSum: new Float64Array(BATCH),
  leftPart: new Int32Array(BATCH),
  /** What received it there, see `light/receiver.ts`: its normal, three a path, and its sides. */
  leftNormal: new Float64Array(BATCH * 3),
  leftSides: new Uint8Array(BATCH),
  unseen: new Float64Array(BATCH),
  /** Whether light found was drawn for, see COUNTED. */
  counted: new Uint8Array(BATCH),
  /** Density with which the tree of shining triangles would have drawn its hit. */
  emitterPdf: new Float64Array(BATCH),

  // --- what it knows where it scattered last in matter, see `within.ts`
  /** Whether it did; the way on which it did: beginning, direction, length, part; and how far along it. */
  inMatter: new Uint8Array(BATCH),
  wayFrom: new Float64Array(BATCH * 3),
  wayAlong: new Float64Array(BATCH * 3),
  wayReach: new Float64Array(BATCH),
  wayPart: new Int32Array(BATCH),
  wayFlight: new Float64Array(BATCH),
  /** Chance to scatter on that way at all; density per metre with which it did there. */
  wayChance: new Float64Array(BATCH),
  wayLikely: new Float64Array(BATCH),

  // --- what it is in, see `media.ts`
  /** What the medium does, see FILLS; extinction per channel, 1/m; single-scattering albedo; mean cosine. */
  fills: new Uint8Array(BATCH),
  sigma: new Float64Array(BATCH * CHANNELS),
  scattering: new Float64Array(BATCH * CHANNELS),
  meanCosine: new Float64Array(BATCH),
  /** Glass whose inside it is in, −1 for none. */
  mediumPart: new Int32Array(BATCH),
  /** Part below whose surface it walks, −1 for none; steps it has made in media. */
  walking: new Int32Array(BATCH),
  steps: new Int32Array(BATCH),
  /** Glasses around it, {@link DEEPEST} a path: how many; part, priority, index; and of each what it does. */
  depth: new Uint8Array(BATCH),
  insideOf: new Int32Array(BATCH * DEEPEST),
  rank: new Int32Array(BATCH * DEEPEST),
  index: new Float64Array(BATCH * DEEPEST),
  does: new Uint8Array(BATCH * DEEPEST),
  kept: new Float64Array(BATCH * DEEPEST * CHANNELS),
  keptAlbedo: new Float64Array(BATCH * DEEPEST * CHANNELS),
  keptCosine: new Float64Array(BATCH * DEEPEST),

  // --- lists of paths: those that go on, those that met a surface, those that scattered in a medium
  active: new Int32Array(BATCH),
  shading: new Int32Array(BATCH),
  drifting: new Int32Array(BATCH),
  /** The shading point of each path. */
  points: Array.from({ length: BATCH }, (_, i) => pointData.subarray(i * POINT_STRIDE, (i + 1) * POINT_STRIDE)),

  // --- shadow rays under way, by their number
  /** Path of each, what it brings, its light. */
  shadowOf: new Int32Array(BATCH),
  shadowValue: new Float64Array(BATCH * CHANNELS),
  shadowLight: new Int32Array(BATCH),
  /** Of shining triangles where it ends: place, u, v. */
  shadowPlace: new Int32Array(BATCH),
  shadowAt: new Float64Array(BATCH * 2),
  /** How much more it counts where no drawn direction brings the same light. */
  shadowWhole: new Float64Array(BATCH),
  /** Whether it begins in matter, and the extinction there per channel, 1/m. */
  shadowFills: new Uint8Array(BATCH),
  shadowSigma: new Float64Array(BATCH * CHANNELS),

  // --- one path or ray
  /** What it brings, before it is added; the value at a surface, kept while it is evaluated by lobe. */
  brought: new Float64Array(CHANNELS),
  whole: new Float64Array(CHANNELS),
  /** Radii of the fields that a network asks for; three draws for a light. */
  radii: new Float64Array(MAX_FIELDS),
  lightDraws: new Float64Array(3),
  /** A shadow ray's end on a shining triangle, and the point there. */
  arrival: createRayBatch(1),
  shining: new Float64Array(POINT_STRIDE),
  /** A shadow ray through glass, a point of its way, and what is left of its light. */
  straightRay: createRayBatch(1),
  straightPoint: new Float64Array(POINT_STRIDE),
  passed: new Float64Array(CHANNELS),
  surrounding: new Float64Array(CHANNELS),
  /** Where light is asked for in matter, and what the path carries there. */
  scatterPlace: new Float64Array(3),
  carried: new Float64Array(CHANNELS),

  // --- what the camera sees directly, see `hold.ts`: by path and channel; one sample of it; by light
  seen: new Float64Array(BATCH * CHANNELS),
  direct: new Float64Array(3),

  /** One sample of a layer of the picture, Rec.709. */
  sample: new Float64Array(3),
  /** Two directions across the one that a medium scatters about. */
  acrossWay: new Float64Array(6),

  // --- draws, see `sampler.ts`: points of the tile under way by pair of dimensions
  /** Both coordinates with their bits in place; where in the mask they look; the tile that they were made for. */
  drawFirst: new Int32Array(DRAW_PAIRS),
  drawSecond: new Int32Array(DRAW_PAIRS),
  lookFirst: new Int32Array(DRAW_PAIRS),
  lookSecond: new Int32Array(DRAW_PAIRS),
  madeFor: new Int32Array(DRAW_PAIRS),
  /** The two numbers that `draw2` made last, each in [0, 1). */
  drawn: new Float64Array(2),

  // --- one point that is looked at by itself, see `isolate.ts`
  lonePoint: new Float64Array(POINT_STRIDE),
}

/** Numbers of the tile under way. */
export const tile = {
  /** What a pixel covers at a distance of one. */
  pixelAngle: 0.5,
  pass: 0,
  /** Whether any material lets shadow rays pass. */
  shadowsPass: false,
}
