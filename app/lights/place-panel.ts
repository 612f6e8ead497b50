import type { Panel } from '../../core/scene/rig'

/**
 * Where a panel stands as seen from the middle of the model: degrees about the vertical from +z towards +x,
 * degrees up, metres away; and its size, metres.
 */
export interface Place {
  azimuth: number
  elevation: number
  distance: number
  width: number
  height: number
}

export function placeOf(p: Panel, middle: readonly number[]): Place {
  const [x, y, z] = p.centre.map((c, k) => c - middle[k]!) as [number, number, number]
  const distance = Math.hypot(x, y, z) || 1e-6
  const round = (a: number) => +((a * 180) / Math.PI).toFixed(2)
  return {
    azimuth: round(Math.atan2(x, z)),
    elevation: round(Math.asin(Math.max(-1, Math.min(1, y / distance)))),
    distance,
    width: 2 * Math.hypot(...p.u),
    height: 2 * Math.hypot(...p.v),
  }
}

/** The panel at a place, facing the middle, its width level. */
export function placed(p: Panel, at: Place, middle: readonly number[]): Panel {
  const a = (at.azimuth * Math.PI) / 180
  const e = (at.elevation * Math.PI) / 180
  const to = [Math.cos(e) * Math.sin(a), Math.sin(e), Math.cos(e) * Math.cos(a)]
  const level = [Math.cos(a), 0, -Math.sin(a)]
  const up = [
    to[1]! * level[2]! - to[2]! * level[1]!,
    to[2]! * level[0]! - to[0]! * level[2]!,
    to[0]! * level[1]! - to[1]! * level[0]!,
  ]
  const scaled = (v: readonly number[], by: number) => v.map(c => c * by) as [number, number, number]
  // the light leaves along u × v: towards the middle
  return {
    ...p,
    centre: to.map((c, k) => middle[k]! + c * at.distance) as [number, number, number],
    u: scaled(level, -at.width / 2),
    v: scaled(up, at.height / 2),
  }
}

/**
 * Share of all directions that a ball's cone sends light into, its fall between the angles counted.
 * @param cone degrees from the axis: whole up to the first, nothing beyond the second
 */
export function coneShare([within, to]: readonly number[]): number {
  if (within! >= 180) return 1
  const a = Math.cos((within! * Math.PI) / 180)
  const b = Math.cos((Math.max(within!, to!) * Math.PI) / 180)
  // ½∫ f d(cos θ) with f = ((cos θ − b)/(a − b))² between
  return (1 - a) / 2 + (a - b) / 6
}
