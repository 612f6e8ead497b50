import { expect, it } from 'vitest'
import { specimens } from '../network/specimens'
import { instantiate } from '../network/instantiate'
import { compileMaterial } from '../world/compile-material'
import { conductorByName, conductorRGB } from '../optics/conductors'
import { CURVE_WAVELENGTHS } from './curves'
import { measure } from './measure'
import { reflectedColour } from './reflected-colour'

const colourOf = (key: string): number[] => {
  const program = compileMaterial(specimens.find(s => s.key === key)!.make())
  const { reflectance } = measure(instantiate(program, []), Float64Array.from(program.constants), {
    angles: [0],
    wavelengths: CURVE_WAVELENGTHS,
    from: 'outside',
    samples: 64,
    colour: false,
  })
  return reflectedColour(CURVE_WAVELENGTHS, reflectance[0]!)
}

it('an even grey stays what it is', () => {
  for (const c of reflectedColour(
    CURVE_WAVELENGTHS,
    CURVE_WAVELENGTHS.map(() => 0.5),
  ))
    expect(c).toBeCloseTo(0.5, 3)
})

it('metals have the colour of their constants at normal incidence', () => {
  const gold = specimens.find(s => s.title === 'Gold')!
  const m = conductorByName('gold')
  colourOf(gold.key).forEach((c, k) => expect(c).toBeCloseTo(conductorRGB[m * 3 + k]!, 1))
})

it('films have the colours that the trade names them by', () => {
  const [r, , b] = colourOf('film:Titanium, blue')
  expect(b).toBeGreaterThan(1.3 * r!)
  const [red, green, blue] = colourOf('film:Titanium, straw')
  expect(red).toBeGreaterThan(green!)
  expect(green).toBeGreaterThan(1.2 * blue!)
})
