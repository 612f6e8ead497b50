import type { Field } from './field'

/**
 * Share of the light of an even sky that something within the radius keeps away, 0..1 (Landis 2002, "Production-ready
 * global illumination"): rays by the cosine. A concave right angle has a half at its edge. Convex: of a sky inside the
 * solid, which is high where it is thin or has an edge.
 */
export const occlusion: Field = {
  spread: 'cosine',
  tells: t => (t < 1 ? 1 : 0),
  weights: side => (side === 'convex' ? { inside: 1, outside: 0 } : { inside: 0, outside: 1 }),
  overRadius: false,
}
