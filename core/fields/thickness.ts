import type { Field } from './field'

/** How far the other side is, in the mean of rays inwards by the cosine, over the radius: 1 where it is farther. */
export const thickness: Field = {
  asks: () => ({ inside: true, outside: false }),
  spread: 'cosine',
  tells: t => t,
  of: inside => inside,
}
