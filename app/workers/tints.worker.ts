/** Finds the colours that measured metals and films reflect head-on, and posts each when it is known. */
import { CURVE_WAVELENGTHS } from '../../core/judge/curves'
import { measure } from '../../core/judge/measure'
import { reflectedColour } from '../../core/judge/reflected-colour'
import { instantiate } from '../../core/network/instantiate'
import { specimens } from '../../core/network/specimens'
import { compileMaterial } from '../../core/world/compile-material'

export interface Tint {
  key: string
  /** Linear Rec.709. */
  rgb: [number, number, number]
}

/** Paths a wavelength: what is smooth needs few. */
const SAMPLES = 8

for (const { key, make, class: of } of specimens) {
  // what glass gives back is a grey of a few hundredths: its swatch shows what passes
  if (of === 'Glasses, polymers, liquids') continue
  const program = compileMaterial(make())
  const { reflectance } = measure(instantiate(program, []), Float64Array.from(program.constants), {
    angles: [0],
    wavelengths: CURVE_WAVELENGTHS,
    from: 'outside',
    samples: SAMPLES,
    colour: false,
  })
  postMessage({ key, rgb: reflectedColour(CURVE_WAVELENGTHS, reflectance[0]!) } satisfies Tint)
}
