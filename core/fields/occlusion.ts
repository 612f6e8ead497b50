import type { Field } from './field'

/**
 * Share of the light of an even sky that something within the radius keeps away, 0..1 (Landis 2002, "Production-ready
 * global illumination"): rays by the cosine. A concave right angle has a half at its edge.
 */
export const occlusion: Field = {
  asks: () => ({ inside: false, outside: true }),
  spread: 'cosine',
  tells: t => (t < 1 ? 1 : 0),
  of: (_, outside) => outside,
}
