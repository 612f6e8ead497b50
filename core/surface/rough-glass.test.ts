import { beforeEach, describe, expect, it } from 'vitest'
import { drawEvenly, loadLanes } from '../testing/draws'
import { roughGlass } from '../testing/facet-walk'
import { generator } from '../testing/generator'
import { beginSurface } from './begin'
import { finishSurface } from './finish'
import { pushGlass } from './lobes/glass'
import { pushMetal } from './lobes/metal'
import { memory, scattered } from './memory'
import { SPEC } from './slots'
import { setSpec } from './spec'

const { spec, value } = memory
beforeEach(() => loadLanes([20, 120, 200, 300]))

/** Shares of even light that the renderer's glass sends to a viewer from either side. */
function shares(mu: number, alpha: number, index: number, within: boolean): { back: number; through: number } {
  const sine = Math.sqrt(1 - mu * mu)
  beginSurface(sine, 0, within ? -mu : mu, 0, 0, 1)
  setSpec(1, 1, 1, alpha, index, 0, 0, 1)
  pushGlass(-1, 1, 1, 1, 0)
  finishSurface()
  const n = 20000
  const sum = { back: 0, through: 0 }
  drawEvenly(n, () => {
    if (scattered.transmitted) sum.through += value[5]! / n
    else sum.back += value[5]! / n
  })
  return sum
}

describe('rough glass', () => {
  it.each(
    [0.3, 0.6, 0.8, 1].flatMap(a => [1.33, 1.5, 2].flatMap(n => [false, true].map(w => [a, n, w] as const))),
  )(
    'of α %d and index %d sends back and lets through what a walk on its facets does; from within: %s',
    (alpha, index, within) => {
      for (const mu of [1, 0.8, 0.5, 0.25]) {
        const walked = roughGlass(mu, alpha, within ? 1 / index : index, 20000, generator(9))
        const got = shares(mu, alpha, index, within)
        expect(Math.abs(got.back - walked.back), `back at ${mu}: ${got.back}, ${walked.back}`).toBeLessThan(0.02)
        expect(Math.abs(got.through - walked.through), `through at ${mu}`).toBeLessThan(0.02)
      }
    },
  )
})

describe('brushed metal', () => {
  it.each([0.3, 0.6, 1].flatMap(ax => [0.05, 0.3, 0.6, 0.9].map(r => [ax, r] as const)))(
    'that absorbs nothing sends all back: α %d along the grain, %d of that across',
    (ax, ratio) => {
      // OpenPBR Surface 1.1, "Microfacet model": αx = r²·√(2/(1 + (1 − a)²)), αy = (1 − a)·αx
      const a = 1 - ratio
      const alpha = ax / Math.sqrt(2 / (1 + (1 - a) ** 2))
      for (const mu of [1, 0.7, 0.4, 0.2])
        for (const angle of [0, 30, 60, 90]) {
          const sine = Math.sqrt(1 - mu * mu)
          const phi = (angle * Math.PI) / 180
          beginSurface(sine * Math.cos(phi), sine * Math.sin(phi), mu, 0, 0, 1)
          setSpec(1, 1, 1, alpha, 1, 0, 0, 1)
          spec[SPEC.anisotropy] = a
          spec[SPEC.grain] = 1
          spec[SPEC.grain + 1] = 0
          spec[SPEC.grain + 2] = 0
          pushMetal(-1, 1, 1, 1, 1, 1, 1)
          finishSurface()
          const n = 20000
          let sum = 0
          drawEvenly(n, () => (sum += value[5]! / n))
          expect(Math.abs(sum - 1), `${mu}, ${angle}: ${sum}`).toBeLessThan(0.01)
        }
    },
  )
})
