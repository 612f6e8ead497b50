/** A ball that shines outwards, all around or within a cone. */
import { CIRCLE, onCircle } from '../../surface/circle'
import { orthonormal } from '../../surface/orthonormal'
import { lit, memory } from '../memory'
import type { PanelEdges } from '../shape'
import { PANEL } from '../slots'
import { setRadiance } from './flat'

const { across, met, toLight } = memory

export const prepare = ({ u, cone }: PanelEdges) => ({
  area: Math.PI * (u[0]! * u[0]! + u[1]! * u[1]! + u[2]! * u[2]!),
  cone: coneOf(cone),
  hard: true,
  around: cone ? Math.max(cone[0], cone[1]) : 180,
})

/**
 * Factors of the fall between the angles of its cone (KHR_lights_punctual, "Inner and Outer Cone Angles"):
 * (cos θ · scale + offset)², within 0..1.
 */
function coneOf(cone: readonly [number, number] | undefined): readonly [scale: number, offset: number] {
  if (!cone || cone[0] >= 180) return [0, 1]
  const inner = Math.cos((cone[0] * Math.PI) / 180)
  const outer = Math.cos((Math.max(cone[0], cone[1]) * Math.PI) / 180)
  const scale = 1 / Math.max(0.001, inner - outer)
  return [scale, -outer * scale]
}

/** How much of its light goes to a point; (dx, dy, dz) leads from there to its centre. */
function coneFall(p: Float64Array, o: number, dx: number, dy: number, dz: number, d2: number): number {
  if (p[o + PANEL.coneScale] === 0) return 1
  const cos = -(dx * p[o + PANEL.nx]! + dy * p[o + PANEL.ny]! + dz * p[o + PANEL.nz]!) / Math.sqrt(d2)
  const t = cos * p[o + PANEL.coneScale]! + p[o + PANEL.coneOffset]!
  const f = t < 0 ? 0 : t > 1 ? 1 : t
  return f * f
}

/**
 * 1 − cosine of the half angle that a ball of squared radius r2 fills at the squared distance d2; written so that small
 * balls keep their digits.
 */
const coneSize = (r2: number, d2: number): number => {
  const s2 = r2 / d2
  return s2 / (1 + Math.sqrt(1 - s2))
}

export function weigh(p: Float64Array, o: number, point: Float64Array, at: number): void {
  const dx = p[o]! - point[at]!
  const dy = p[o + PANEL.y]! - point[at + 1]!
  const dz = p[o + PANEL.z]! - point[at + 2]!
  const d2 = dx * dx + dy * dy + dz * dz
  lit.estimate =
    d2 > p[o + PANEL.uu]! ? (p[o + PANEL.power]! * p[o + PANEL.area]! * coneFall(p, o, dx, dy, dz, d2)) / d2 : 0
}

/** Draws a direction within the cone that it fills. */
export function sample(p: Float64Array, o: number, S: Float64Array): boolean {
  const dx = p[o]! - S[0]!
  const dy = p[o + PANEL.y]! - S[1]!
  const dz = p[o + PANEL.z]! - S[2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const r2 = p[o + PANEL.uu]!
  if (!(d2 > r2)) return false
  const size = coneSize(r2, d2)
  const d = Math.sqrt(d2)
  const cos = 1 - lit.u * size
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  onCircle(lit.v)
  orthonormal(across, dx / d, dy / d, dz / d)
  const a = sin * CIRCLE[0]!
  const b = sin * CIRCLE[1]!
  lit.x = (cos * dx) / d + a * across[0]! + b * across[3]!
  lit.y = (cos * dy) / d + a * across[1]! + b * across[4]!
  lit.z = (cos * dz) / d + a * across[2]! + b * across[5]!
  lit.distance = d * cos - Math.sqrt(Math.max(0, r2 - d2 * sin * sin))
  lit.pdf = lit.share / (2 * Math.PI * size)
  setRadiance(p, o, coneFall(p, o, dx, dy, dz, d2))
  return true
}

export function density(
  p: Float64Array,
  o: number,
  origin: Float64Array,
  _direction: Float64Array,
  at: number,
): void {
  const d2 =
    (p[o]! - origin[at]!) ** 2 +
    (p[o + PANEL.y]! - origin[at + 1]!) ** 2 +
    (p[o + PANEL.z]! - origin[at + 2]!) ** 2
  const r2 = p[o + PANEL.uu]!
  lit.pdf = d2 > r2 ? lit.share / (2 * Math.PI * coneSize(r2, d2)) : 0
}

export function hit(
  p: Float64Array,
  o: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
): boolean {
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  const cx = p[o]! - origin[at]!
  const cy = p[o + PANEL.y]! - origin[at + 1]!
  const cz = p[o + PANEL.z]! - origin[at + 2]!
  const d2 = cx * cx + cy * cy + cz * cz
  const along = cx * dx + cy * dy + cz * dz
  const x = cx - along * dx
  const y = cy - along * dy
  const z = cz - along * dz
  const rest = p[o + PANEL.uu]! - x * x - y * y - z * z
  // it shines outwards
  if (rest < 0 || d2 <= p[o + PANEL.uu]!) return false
  const t = along - Math.sqrt(rest)
  if (!(t > 1e-9 && t < lit.distance)) return false
  met[0] = coneFall(p, o, cx, cy, cz, d2)
  lit.distance = t
  return true
}

export const fade: (p: Float64Array, o: number) => number = () => met[0]!

/** Its middle stands for it. */
export function aim(p: Float64Array, o: number, point: Float64Array): boolean {
  for (let k = 0; k < 3; k++) toLight[k] = p[o + k]! - point[k]!
  const d = Math.hypot(toLight[0]!, toLight[1]!, toLight[2]!)
  lit.distance = d - Math.sqrt(p[o + PANEL.uu]!)
  for (let k = 0; k < 3; k++) toLight[k]! /= d
  return lit.distance > 0
}
