/**
 * What receives light where lights are weighed: how much its cosine leaves of what comes from around a place (Conty
 * Estévez & Kulla 2018, "Importance Sampling of Many Lights with Adaptive Tree Splitting", the receiver's part of their
 * importance). The cosine of the nearest direction within the light's sphere counts, widened, because triangles and
 * reliefs turn away from the normal that is known here.
 *
 * Measured on the demo scenes (240 × 180, 24 passes, against 400; mean ΔE2000 squared, without over with): hatch 1.52,
 * stair hall 1.14, lantern 1.10, for 0.3 to 3.6 % more rays. Tried: all lights wider by a sine of 0.15, a tenth of
 * that gain less.
 */

/** Unit normal on the viewer's side, and how many sides answer light: 0 where all directions count alike. */
export const receiver = { x: 0.5, y: 0.5, z: 0.5, sides: 0 }

/** Sine of the angle by which every light is taken to be wider. */
const WIDER = 0.05
/** What counts of a light behind the surface: so little that few draws go there, and none is never drawn. */
const BEHIND = 0.02

/** Nothing is known of what receives: it scatters in all directions. */
export function receiveAll(): void {
  receiver.sides = 0
}

/** @param sides 1 where light from behind is not answered, 2 where it is, 0 where no cosine counts */
export function receiveAt(x: number, y: number, z: number, sides: number): void {
  receiver.x = x
  receiver.y = y
  receiver.z = z
  receiver.sides = sides
}

/**
 * Share that the receiver's cosine leaves, at most.
 * @param dx way to the middle of what shines, and dy, dz
 * @param d2 its squared length
 * @param r2 squared radius of a sphere about all that shines
 */
export function received(dx: number, dy: number, dz: number, d2: number, r2: number): number {
  if (receiver.sides === 0 || !(d2 > r2)) return 1
  const per = 1 / Math.sqrt(d2)
  let cosine = (dx * receiver.x + dy * receiver.y + dz * receiver.z) * per
  if (receiver.sides === 2 && cosine < 0) cosine = -cosine
  const wide = Math.sqrt(r2) * per + WIDER
  if (wide >= 1) return 1
  const narrow = Math.sqrt(1 - wide * wide)
  // the normal lies within the widened cone
  if (cosine >= narrow) return 1
  const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine))
  const nearest = cosine * narrow + sine * wide
  return nearest > BEHIND ? nearest : BEHIND
}
