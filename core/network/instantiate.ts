import { memory } from '../expression/memory'
import type { Texture } from '../maps/texture'
import { FUNCTIONS } from '../nodes/functions'
import { fresnelConductor } from '../optics/fresnel'
import { layFootprint } from '../point/footprint'
import { MORE_SETS, POINT, POINT_STRIDE } from '../point/slots'
import { darkenFrom } from '../surface/darken'
import { edgeTint } from '../surface/edge-tint'
import { pushConicalEmission, pushEmission, tap } from '../surface/emission'
import { setCoefficients } from '../surface/inside'
import { lobesSoFar, pushGlassBody, pushInterface, setThin } from '../surface/interface'
import { pushFuzzLayer, pushLayer, pushRiseLayer } from '../surface/layers'
import { pushConductor } from '../surface/lobes/conductor'
import { pushFuzz } from '../surface/lobes/fuzz'
import { pushMetal } from '../surface/lobes/metal'
import { pushReflection } from '../surface/lobes/reflection'
import { pushRoughDiffuse } from '../surface/lobes/rough-diffuse'
import { pushThrough } from '../surface/lobes/through'
import { pushTranslucent } from '../surface/lobes/translucent'
import { pushWalk } from '../surface/lobes/walk'
import { endCoat, inputs as openPbr, pushCoatOver, pushOpenPbr, pushOpenPbrLight } from '../surface/openpbr'
import { setAnisotropy, setCover, setFilm, setGrain, setRise, setSpec } from '../surface/spec'
import type { Program } from './compile'

const { knots, result } = memory

/** Smallest step of a slope, metres: far below what any pixel shows, far above what double precision loses. */
const LEAST_STEP = 1e-7

/**
 * Puts the point beside S into X: half a pixel further along u (axis 0) or v (axis 1). Tried: moving S itself and
 * putting it back, 0.988 ± 0.006 of the speed on the stairs.
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
  const moved = S[POINT.moved] === 1
  const m = POINT.toObject
  const ox = moved ? S[m]! * x + S[m + 1]! * y + S[m + 2]! * z : x
  const oy = moved ? S[m + 3]! * x + S[m + 4]! * y + S[m + 5]! * z : y
  const oz = moved ? S[m + 6]! * x + S[m + 7]! * y + S[m + 8]! * z : z
  X[POINT.objectPosition]! += step * ox
  X[POINT.objectPosition + 1]! += step * oy
  X[POINT.objectPosition + 2]! += step * oz
  const displaced = S[POINT.displaced] === 1
  const r = axis === 0 ? POINT.restByU : POINT.restByV
  X[POINT.restPosition]! += step * (displaced ? S[r]! : ox)
  X[POINT.restPosition + 1]! += step * (displaced ? S[r + 1]! : oy)
  X[POINT.restPosition + 2]! += step * (displaced ? S[r + 2]! : oz)
  for (let k = 0; k < S[POINT.fields]!; k++) {
    const by = POINT.fieldBy + 3 * k
    X[POINT.field + k]! += step * (S[by]! * x + S[by + 1]! * y + S[by + 2]! * z)
  }
  for (let k = 0; k < 2 * MORE_SETS; k++) X[POINT.uvMore + k]! += step * S[POINT.uvMoreBy + 2 * k + axis]!
  return step
}

/**
 * Functions of a source. S is a shading point; constants C and images I are arguments, so that all materials of one
 * source share one function and what the engine learns of it.
 */
export interface Code {
  /** Writes the radius of each field that is asked for to R, metres. */
  requests(S: Float64Array, C: Float64Array, I: Images, R: Float64Array): void
  /** Pushes the surface at S. */
  shade(S: Float64Array, C: Float64Array, I: Images): void
  /** Adds what the surface at S sends out, and no more. */
  light(S: Float64Array, C: Float64Array, I: Images): void
  /** Pushes what of the surface at S light may pass straight, and what weakens it. */
  passage(S: Float64Array, C: Float64Array, I: Images): void
  /** Writes the value at S to `memory.result`, for roots that give numbers. */
  value(S: Float64Array, C: Float64Array, I: Images): void
  /**
   * For displacements: writes each of the three numbers at S, beside it along u, and along v, then the steps in u and
   * v, to `memory.slopes`. Writes nothing where that cannot be computed.
   */
  slopes(S: Float64Array, C: Float64Array, I: Images): void
}

/** Decoded images in the order of a program's; null where one is missing. */
export type Images = readonly (Texture | null)[]

/** A program ready to run in this thread, with the images that its code is called with. */
export interface Shader extends Code {
  images: Images
}

const unit = (x: number): number => (x > 0 ? (x < 1 ? x : 1) : 0)

/** What generated code may call, and write into. */
const LIBRARY = {
  ...FUNCTIONS,
  beside,
  darkenFrom,
  edgeTint,
  foundSlopes: memory.slopes,
  fresnelConductor,
  knots,
  layFootprint,
  lobesSoFar,
  openPbr,
  pushConductor,
  pushConicalEmission,
  pushCoatOver,
  endCoat,
  pushEmission,
  pushFuzz,
  pushFuzzLayer,
  pushGlassBody,
  pushInterface,
  pushLayer,
  pushMetal,
  pushOpenPbr,
  pushOpenPbrLight,
  pushReflection,
  pushRiseLayer,
  pushRoughDiffuse,
  pushThrough,
  pushTranslucent,
  pushWalk,
  result,
  setAnisotropy,
  setCoefficients,
  setCover,
  setFilm,
  setGrain,
  setRise,
  setSpec,
  setThin,
  stride: POINT_STRIDE,
  tap,
  unit,
}
const NAMES = Object.keys(LIBRARY)

/** Code by its source, those asked for last at the end; and how many are kept. */
const known = new Map<string, Code>()
const MOST_KEPT = 512

/** Makes functions of a source, or gives those that it has had before. */
function codeOf(source: string): Code {
  let code = known.get(source)
  // The source comes from compileNetwork alone: numbers and identifiers of our own.
  code ??= new Function(
    'L',
    `"use strict";\nconst { ${NAMES.join(', ')} } = L;\n${source}\n` +
      'return { requests, shade, light, passage, value, slopes };',
  )(LIBRARY) as Code
  known.delete(source)
  known.set(source, code)
  if (known.size > MOST_KEPT) known.delete(known.keys().next().value!)
  return code
}

/** Makes a program ready to run. @param images decoded images in the order of `program.images` */
export const instantiate = (program: Program, images: Images): Shader => ({ ...codeOf(program.source), images })
