import { conductorRGB } from '../optics/conductors'
import { glassIndex } from '../optics/glasses'
import { fresnelConductor } from '../optics/fresnel'
import { hsvToRgb, range, rgbToHsv, smoothstep } from '../nodes/adjust'
import {
  cell2,
  cell3,
  fractal2,
  fractal3,
  fractal3v,
  noise2,
  noise2v,
  noise3,
  noise3v,
  T,
  worley2,
  worley3,
} from '../nodes/noise'
import { edgeTint, pushConicalEmission, pushEmission, tap } from '../surface/finish'
import { setCoefficients, setInterior } from '../surface/inside'
import { darkenFrom, layerQ, pushFuzzLayer, riseLayerQ } from '../surface/layers'
import {
  conductorQ,
  glassQ,
  grainQ,
  measuredGlassQ,
  metalQ,
  pushFuzz,
  pushRoughDiffuse,
  pushThrough,
  pushTranslucent,
  pushWalk,
  reflectQ,
  riseQ,
  sheetQ,
} from '../surface/lobes'
import { inputs as P, pushCoatOver, pushOpenPbr } from '../surface/openpbr'
import { now, Q, setQ } from '../surface/state'
import { curve, K, ramp } from '../nodes/points'
import type { Program } from './compile'
import { POINT, POINT_STRIDE } from './shading-point'
import { lookUp, type Texture } from './texture'

/** Smallest step of a slope, metres: far below what any pixel shows, far above what double precision loses. */
const LEAST_STEP = 1e-7

/**
 * Puts the point beside S into X: half a pixel further along u (axis 0) or v (axis 1).
 * @returns the step in u or v
 */
function beside(S: Float64Array, X: Float64Array, axis: number): number {
  X.set(S)
  const d = axis === 0 ? POINT.dpdu : POINT.dpdv
  const x = S[d]!
  const y = S[d + 1]!
  const z = S[d + 2]!
  const l = Math.sqrt(x * x + y * y + z * z)
  const step = l > 0 ? Math.max(S[POINT.footprint]!, LEAST_STEP) / l : 0
  X[POINT.position]! += step * x
  X[POINT.position + 1]! += step * y
  X[POINT.position + 2]! += step * z
  X[POINT.uv + axis]! += step
  return step
}

/** A program ready to run in this thread. S is a shading point, C the program's constants. */
export interface Shader {
  /** Writes the radius of each probe to R. */
  requests(S: Float64Array, C: Float64Array, R: Float64Array): void
  /** Pushes the surface at S. */
  shade(S: Float64Array, C: Float64Array): void
  /** Writes the value at S to {@link T}, for roots that give numbers. */
  value(S: Float64Array, C: Float64Array): void
}

const unit = (x: number): number => (x > 0 ? (x < 1 ? x : 1) : 0)

/** What generated code may call. */
const LIBRARY = {
  T,
  P,
  now,
  beside,
  stride: POINT_STRIDE,
  ramp,
  curve,
  K,
  metalRGB: conductorRGB,
  unit,
  smoothstep,
  range,
  rgbToHsv,
  hsvToRgb,
  noise2,
  noise3,
  noise2v,
  noise3v,
  fractal2,
  fractal3,
  fractal3v,
  cell2,
  cell3,
  worley2,
  worley3,
  lookUp,
  fresnelConductor,
  edgeTint,
  glassIndex,
  Q,
  setQ,
  pushOpenPbr,
  pushCoatOver,
  pushRoughDiffuse,
  reflectQ,
  riseQ,
  glassQ,
  measuredGlassQ,
  sheetQ,
  metalQ,
  conductorQ,
  grainQ,
  pushFuzz,
  pushFuzzLayer,
  pushWalk,
  pushTranslucent,
  pushThrough,
  setInterior,
  setCoefficients,
  layerQ,
  riseLayerQ,
  pushEmission,
  pushConicalEmission,
  darkenFrom,
  tap,
}
const NAMES = Object.keys(LIBRARY)

/**
 * Makes functions of a program.
 * @param images decoded images in the order of `program.images`; null where one is missing
 */
export function instantiate(program: Program, images: (Texture | null)[]): Shader {
  // The source comes from compileNetwork alone: numbers and identifiers of our own.
  const make = new Function(
    'L',
    'I',
    `"use strict";\nconst { ${NAMES.join(', ')} } = L;\n${program.source}\nreturn { requests, shade, value };`,
  )
  return make(LIBRARY, images) as Shader
}
