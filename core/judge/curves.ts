/**
 * Curves of a material on demand: reflectance against angle and wavelength, and the shape of its scattering in the
 * plane of incidence.
 */
import { GRID_END, GRID_START } from '../colour/grid'
import type { Shader } from '../network/instantiate'
import { evaluate } from '../surface/evaluate'
import { memory } from '../surface/memory'
import { load, measure, seen } from './measure'

const { value } = memory

export interface CurveRequest {
  /** Angle of incidence, degrees from the normal, 0 up to 90. */
  angle: number
  /** Paths an angle and wavelength. */
  samples: number
}

export interface Curves {
  /** Degrees; reflectance and transmittance at 450, 550 and 650 nm, in this order, for each. */
  angles: number[]
  reflectance: number[][]
  transmittance: number[][]
  /** nm; reflectance and transmittance at the angle asked for. */
  wavelengths: number[]
  spectrum: number[]
  passed: number[]
  lobe: Lobe
}

/**
 * Scattering in the plane of incidence: f·|cos θ| per RGB component by direction, degrees from the normal towards
 * the mirror direction; beyond ±90 on the far side. Smooth parts are left out.
 */
export interface Lobe {
  degrees: number[]
  values: [number, number, number][]
}

export const CURVE_ANGLES = [0, 10, 20, 30, 40, 50, 55, 60, 65, 70, 75, 80, 84, 88] as const
export const CURVE_WAVELENGTHS = Array.from(
  { length: (GRID_END - GRID_START) / 10 + 1 },
  (_, i) => GRID_START + i * 10,
)

/** Evaluates a compiled material for light that comes in at `angle`, every 1.5°. */
export function lobeShape(shader: Shader, C: Float64Array, angle: number): Lobe {
  const t = (Math.min(89.9, Math.max(0, angle)) * Math.PI) / 180
  load([70, 140, 210, 280])
  const degrees: number[] = []
  const values: Lobe['values'] = []
  if (!seen(shader, C, Math.sin(t), 0, -Math.cos(t))) return { degrees, values }
  for (let d = -180; d < 180; d += 1.5) {
    const a = (d * Math.PI) / 180
    evaluate(Math.sin(a), 0, Math.cos(a))
    degrees.push(d)
    values.push([value[4]!, value[5]!, value[6]!])
  }
  return { degrees, values }
}

/** Computes all curves of a compiled material. @throws RangeError for an angle that cannot be */
export function curvesOf(shader: Shader, C: Float64Array, r: CurveRequest): Curves {
  const byAngle = measure(shader, C, {
    angles: [...CURVE_ANGLES],
    wavelengths: [450, 550, 650],
    from: 'outside',
    samples: r.samples,
    colour: false,
  })
  const angle = Math.min(89, Math.max(0, r.angle))
  const byWavelength = measure(shader, C, {
    angles: [angle],
    wavelengths: CURVE_WAVELENGTHS,
    from: 'outside',
    samples: r.samples,
    colour: false,
  })
  return {
    angles: [...CURVE_ANGLES],
    reflectance: byAngle.reflectance,
    transmittance: byAngle.transmittance,
    wavelengths: CURVE_WAVELENGTHS,
    spectrum: byWavelength.reflectance[0]!,
    passed: byWavelength.transmittance[0]!,
    lobe: lobeShape(shader, C, angle),
  }
}
