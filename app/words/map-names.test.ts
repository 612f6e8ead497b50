import { expect, it } from 'vitest'
import { inputFor } from './map-names'

const OPEN = ['base_color', 'specular_roughness', 'geometry_normal', 'geometry_opacity'].map(name => ({ name }))
const METAL = ['metal', 'roughness', 'normal'].map(name => ({ name }))

it('a picture goes where its name says, else on the colour; nowhere where a surface has no such input', () => {
  expect(inputFor('stone.png', OPEN)).toBe('base_color')
  expect(inputFor('Stone_Roughness.EXR', OPEN)).toBe('specular_roughness')
  expect(inputFor('stone-height.png', OPEN)).toBe('geometry_normal')
  expect(inputFor('leaf_mask.png', OPEN)).toBe('geometry_opacity')
  expect(inputFor('stone_rough.png', METAL)).toBe('roughness')
  expect(inputFor('stone.png', METAL)).toBeUndefined()
})
