import { expect, it } from 'vitest'
import { fittingInput } from './fits'

it('a loose wire goes into the first input that takes its type, else one that it can become', () => {
  expect(fittingInput('dotproduct', 'vector3')).toBe('in1')
  expect(fittingInput('image', 'vector2')).toBe('texcoord')
  expect(fittingInput('mix', 'surfaceshader')).toBe('fg')
  // a number decides between two, and is seldom one of them
  expect(fittingInput('mix', 'float')).toBe('mix')
  expect(fittingInput('mix', 'color3')).toBe('fg')
  expect(fittingInput('wl_curvature', 'color3')).toBeUndefined()
})
