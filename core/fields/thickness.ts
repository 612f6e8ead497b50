import type { Field } from './field'

/** How far the other side is, in the mean of rays inwards by the cosine, over the radius: 1 where it is farther. */
export const thickness: Field = {
  spread: 'cosine',
  tells: t => t,
  weights: () => ({ inside: 1, outside: 0 }),
  overRadius: false,
}
