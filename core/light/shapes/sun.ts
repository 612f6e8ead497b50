/**
 * A disc so far away that it stands for directions: the way to its centre, and as large as its first half edge seems at
 * that distance. Where it stands does not matter else, so it shines alike everywhere.
 */
import { CIRCLE, onCircle } from '../../surface/circle'
import { orthonormal } from '../../surface/orthonormal'
import { lit, memory } from '../memory'
import type { LightShape } from '../shape'
import { PANEL } from '../slots'
import { setRadiance } from './flat'

const { across, toLight } = memory

/** It shows no area: only its steradians count. */
export const prepare = () => ({ area: 0, hard: true })

const distance2 = (p: Float64Array, o: number): number =>
  p[o]! * p[o]! + p[o + PANEL.y]! * p[o + PANEL.y]! + p[o + PANEL.z]! * p[o + PANEL.z]!

/** 1 − cosine of its half angle, which has the tangent r/d; written so that small ones keep their digits. */
function size(p: Float64Array, o: number): number {
  const sin2 = p[o + PANEL.uu]! / (p[o + PANEL.uu]! + distance2(p, o))
  return sin2 / (1 + Math.sqrt(1 - sin2))
}

export const weigh: LightShape['weigh'] = (p, o) => {
  lit.estimate = p[o + PANEL.power]! * 2 * Math.PI * size(p, o)
}

/** Draws a direction within the cone that it fills, by two draws, into `toLight`. */
function draw(p: Float64Array, o: number, u: number, v: number): void {
  const d = Math.sqrt(distance2(p, o))
  const x = p[o]! / d
  const y = p[o + PANEL.y]! / d
  const z = p[o + PANEL.z]! / d
  const part = u * size(p, o)
  const cos = 1 - part
  const sin = Math.sqrt(part * (2 - part))
  onCircle(v)
  orthonormal(across, x, y, z)
  const a = sin * CIRCLE[0]!
  const b = sin * CIRCLE[1]!
  toLight[0] = cos * x + a * across[0]! + b * across[3]!
  toLight[1] = cos * y + a * across[1]! + b * across[4]!
  toLight[2] = cos * z + a * across[2]! + b * across[5]!
  lit.distance = Infinity
}

export const sample: LightShape['sample'] = (p, o) => {
  draw(p, o, lit.u, lit.v)
  lit.x = toLight[0]!
  lit.y = toLight[1]!
  lit.z = toLight[2]!
  lit.pdf = lit.share / (2 * Math.PI * size(p, o))
  setRadiance(p, o, 1)
  return true
}

export const density: LightShape['density'] = (p, o) => {
  lit.pdf = lit.share / (2 * Math.PI * size(p, o))
}

/** Met where nothing else is. */
export function hit(
  p: Float64Array,
  o: number,
  _origin: Float64Array,
  direction: Float64Array,
  at: number,
): boolean {
  if (lit.distance < Infinity) return false
  const d = Math.sqrt(distance2(p, o))
  // the chord between both unit vectors: 2(1 − cos), without a difference of nearly equal numbers
  const x = direction[at]! - p[o]! / d
  const y = direction[at + 1]! - p[o + PANEL.y]! / d
  const z = direction[at + 2]! - p[o + PANEL.z]! / d
  return x * x + y * y + z * z <= 2 * size(p, o)
}

export const fade: LightShape['fade'] = () => 1

export function aim(p: Float64Array, o: number, _point: Float64Array, draws: Float64Array): boolean {
  draw(p, o, draws[1]!, draws[2]!)
  return true
}
