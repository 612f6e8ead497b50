/**
 * Coats on solid glass, from either side and as a plate with both faces coated. The witness is the sum over two plane
 * faces without phase (Stokes 1862) with Fresnel's amplitudes and Snell's law of the tests' own (`plane-face.ts`).
 */
import { beforeEach, describe, expect, it } from 'vitest'
import { drawEvenly, loadLanes } from '../testing/draws'
import { bent, faceReflects } from '../testing/plane-face'
import { dir, see, set } from '../testing/openpbr'
import { beginSurface } from './begin'
import { darkenFrom } from './darken'
import { finishSurface } from './finish'
import { pushGlass } from './lobes/glass'
import { memory, now, scattered } from './memory'
import { endCoat, pushCoatOver } from './openpbr'
import { setSpec } from './spec'

const { value } = memory
beforeEach(() => loadLanes([20, 120, 200, 300]))

/** Both faces of the coat for light from index a through b to c. @param pass what it leaves, once straight through */
function coated(
  cos: number,
  [a, b, c]: readonly [number, number, number],
  pass: number,
): { R: number; T: number } {
  const inside = bent(cos, a, b)
  const near = faceReflects(cos, a, b)
  if (near === 1) return { R: 1, T: 0 }
  const far = faceReflects(inside, b, c)
  const t = pass ** (1 / inside)
  const D = 1 - near * far * t * t
  return { R: near + ((1 - near) ** 2 * far * t * t) / D, T: ((1 - near) * (1 - far) * t) / D }
}

/** What is reflected and what passes of the surface as it stands, by the renderer's sampling. */
function drawn(): { R: number; T: number } {
  const N = 6000
  const sum = { R: 0, T: 0 }
  drawEvenly(N, () => {
    sum[scattered.transmitted ? 'T' : 'R'] += value[1]! / N
  })
  return sum
}
/** The same of what `push` makes, seen at a cosine from either side. */
function measured(cos: number, within: boolean, push: () => void): { R: number; T: number } {
  const o = dir(Math.acos(cos), 0)
  beginSurface(o[0]!, o[1]!, within ? -o[2]! : o[2]!, 0, 0, 1)
  push()
  finishSurface()
  return drawn()
}
/** Our coat over clear glass. */
const glassUnder = (coat: number, glass: number, pass: number) => () => {
  const tint = pass * pass
  const under = pushCoatOver(-1, 1, 1, tint, tint, tint, 0, coat, 0, 0, 1)
  const first = now.lobes
  setSpec(1, 1, 1, 0, glass, 0, 0, 1)
  pushGlass(under, 1, 1, 1, 0)
  endCoat()
  if (under >= 0) darkenFrom(first, under, 1, 1)
}

describe('coats on glass', () => {
  const cases = [
    [1.5, 1.5, 1],
    [1.5, 1.5, 0.5],
    [1.35, 1.6, 0.7],
    [1.9, 1.4, 0.8],
  ] as const
  it.each(cases)('index %f on %f, %f of light left on one way: both ways', (coat, glass, pass) => {
    for (const cos of [1, 0.8, 0.5, 0.2]) {
      const outer = measured(cos, false, glassUnder(coat, glass, pass))
      const exact = coated(cos, [1, coat, glass], pass)
      expect(Math.abs(outer.R - exact.R), `R ${cos}`).toBeLessThan(0.003)
      expect(Math.abs(outer.T - exact.T), `T ${cos}`).toBeLessThan(0.003)
      const inner = measured(cos, true, glassUnder(coat, glass, pass))
      const back = coated(cos, [glass, coat, 1], pass)
      expect(Math.abs(inner.R - back.R), `R from within ${cos}`).toBeLessThan(0.003)
      expect(Math.abs(inner.T - back.T), `T from within ${cos}`).toBeLessThan(0.003)
      // Helmholtz: what passes one way passes the other
      const beyond = bent(cos, 1, glass)
      expect(Math.abs(outer.T - measured(beyond, true, glassUnder(coat, glass, pass)).T)).toBeLessThan(0.003)
    }
  })

  it('a plate tinted to a quarter on both faces passes 0.230; a clear one reflects as without coats, 0.0769', () => {
    const plate = (pass: number) => {
      const { R, T } = measured(1, false, glassUnder(1.5, 1.5, pass))
      const inner = measured(1, true, glassUnder(1.5, 1.5, pass))
      const d = 1 - inner.R * inner.R
      return { R: R + (T * inner.T * inner.R) / d, T: (T * inner.T) / d }
    }
    expect(plate(0.5).T).toBeCloseTo(0.23, 2)
    expect(Math.abs(plate(1).R - 0.0769)).toBeLessThan(0.001)
  })

  it('the coat of the open surface is the same', () => {
    set({
      transmission_weight: 1,
      specular_roughness: 0,
      specular_ior: 1.6,
      coat_weight: 1,
      coat_roughness: 0,
      coat_ior: 1.35,
      coat_color: [0.49, 0.49, 0.49],
    })
    for (const cos of [1, 0.5]) {
      see(dir(Math.acos(cos), 0))
      const { T } = drawn()
      expect(Math.abs(T - coated(cos, [1, 1.35, 1.6], 0.7).T)).toBeLessThan(0.004)
    }
  })
})
