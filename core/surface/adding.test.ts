import { beforeEach, expect, it, describe } from 'vitest'
import { drawEvenly, loadLanes } from '../testing/draws'
import { addedAlbedo, type Base, type Film } from '../testing/adding'
import { dir, grey, metal, see, set, type Changes } from '../testing/openpbr'
import { beginSurface } from './begin'
import { darkenFrom } from './darken'
import { evaluate } from './evaluate'
import { finishSurface } from './finish'
import { memory, now } from './memory'
import { fresnelDielectric } from '../optics/fresnel'
import { pushCoatOver, pushOpenPbr } from './openpbr'

const { value } = memory

beforeEach(() => loadLanes([20, 120, 200, 300]))

/** Directional albedo of the renderer's surface: as set, or as `make` pushes it. */
function albedo(changes: Changes, mu: number, make: (o: readonly number[]) => void = see): number {
  set(changes)
  make(dir(Math.acos(mu), 0))
  const N = 20_000
  let sum = 0
  drawEvenly(N, () => {
    sum += value[5]! / N
  })
  return sum
}
/**
 * A base alone, as its lobes reflect flux from one cosine to another: here the renderer is its own witness, its
 * layers are not.
 */
function baseOf(changes: Changes): Base {
  return (muI, muO) => {
    set(changes)
    see(dir(Math.acos(muI), 0))
    let sum = 0
    for (let p = 0; p < 24; p++) {
      const o = dir(Math.acos(muO), ((p + 0.5) / 24) * Math.PI)
      evaluate(o[0], o[1], o[2])
      sum += value[5]!
    }
    return (sum / 24) * 2 * Math.PI
  }
}
const lambert =
  (rho: number): Base =>
  (_, o) =>
    2 * o * rho
const CLEAR: Changes = {
  specular_weight: 0,
  coat_weight: 1,
  coat_roughness: 0,
  coat_ior: 1.5,
  coat_color: grey(1),
}
const gloss: Changes = { base_color: grey(0.5), specular_weight: 1, specular_roughness: 0.5, specular_ior: 2 }
const once = (twice: number): Film => ({ index: 1.5, passes: Math.sqrt(twice) })
/** The standard's coat below one of our own, over a Lambertian base. */
function seeTwoCoats(o: readonly number[]): void {
  beginSurface(o[0]!, o[1]!, o[2]!, 0, 0, 1)
  const under = pushCoatOver(-1, 1, 1, 0.7, 0.7, 0.7, 0, 1.3, 0, 0, 1)
  const first = now.lobes
  pushOpenPbr(under, 1)
  darkenFrom(first, under, 1, 1)
  finishSurface()
}

/**
 * What is meant, how it is set, the same for the reference, and how far apart they may be: docs/optics.md states
 * these distances.
 */
const STACKS: [string, Changes, Film[], Base, number][] = [
  ...[0.2, 0.5, 0.8].map((rho): [string, Changes, Film[], Base, number] => [
    `clear coat over a Lambertian base of ${rho}`,
    { ...CLEAR, base_color: grey(rho) },
    [once(1)],
    lambert(rho),
    0.003,
  ]),
  ...[0.2, 0.5, 0.8].map((rho): [string, Changes, Film[], Base, number] => [
    `coat that leaves half over a Lambertian base of ${rho}`,
    { ...CLEAR, coat_color: grey(0.5), base_color: grey(rho) },
    [once(0.5)],
    lambert(rho),
    0.003,
  ]),
  [
    'dark coat over white',
    { ...CLEAR, coat_color: grey(0.1), base_color: grey(1) },
    [once(0.1)],
    lambert(1),
    0.003,
  ],
  [
    'clear coat of index 1.8 over a Lambertian base of 0.8',
    { ...CLEAR, coat_ior: 1.8, base_color: grey(0.8) },
    [{ index: 1.8, passes: 1 }],
    lambert(0.8),
    0.003,
  ],
  ...[1.3, 1.5, 2].flatMap(index =>
    [0.5, 0.7].map((roughness): [string, Changes, Film[], Base, number] => [
      `clear coat of ${index} over metal of roughness ${roughness}`,
      { ...CLEAR, coat_ior: index, ...metal(0.9, roughness) },
      [{ index, passes: 1 }],
      baseOf(metal(0.9, roughness)),
      0.015,
    ]),
  ),
  ...[0.6, 0.8].map((roughness): [string, Changes, Film[], Base, number] => [
    `coat that leaves half over darker metal of roughness ${roughness}`,
    { ...CLEAR, ...metal(0.6, roughness), coat_color: grey(0.5) },
    [once(0.5)],
    baseOf(metal(0.6, roughness)),
    0.01,
  ]),
  ...[1.3, 1.5, 1.8].map((index): [string, Changes, Film[], Base, number] => [
    `clear coat of ${index} over a glossy base of index 2`,
    { ...CLEAR, coat_ior: index, ...gloss },
    [{ index, passes: 1 }],
    baseOf({ ...gloss, specular_ior: 2 / index }),
    0.015,
  ]),
]

describe('layers against adding of plane layers', () => {
  it.each(STACKS)('%s', (_, changes, films, base, distance) => {
    for (const mu of [1, 0.7, 0.45, 0.25])
      expect(Math.abs(albedo(changes, mu) - addedAlbedo(films, base, mu))).toBeLessThan(distance)
  })
  it('a tinted coat of index 1.3 over a clear one of 1.5 over a Lambertian base of 0.8', () => {
    for (const mu of [1, 0.7, 0.45, 0.25])
      expect(
        Math.abs(
          albedo({ ...CLEAR, base_color: grey(0.8) }, mu, seeTwoCoats) -
            addedAlbedo([{ index: 1.3, passes: Math.sqrt(0.7) }, once(1)], lambert(0.8), mu),
        ),
      ).toBeLessThan(0.015)
  })
  it(
    'the reference itself: one face over a white base gives all back; Saunderson’s sum for diffuse light ' +
      '(1942)',
    () => {
      expect(addedAlbedo([once(1)], lambert(1), 0.6)).toBeCloseTo(1, 3)
      const N = 200
      let face = 0
      let sum = 0
      for (let i = 0; i < N; i++) face += fresnelDielectric(Math.sqrt((i + 0.5) / N), 1.5) / N
      // Gauss–Legendre of four points over µ²
      for (const [x, w] of [
        [0.0694318, 0.1739274],
        [0.3300095, 0.3260726],
        [0.6699905, 0.3260726],
        [0.9305682, 0.1739274],
      ] as const)
        sum += w * addedAlbedo([once(1)], lambert(0.6), Math.sqrt(x))
      const inside = 1 - (1 - face) / 2.25
      expect(Math.abs(sum - (face + ((1 - face) * (1 - inside) * 0.6) / (1 - 0.6 * inside)))).toBeLessThan(0.006)
    },
  )
  it('the reference of two films of one index is that of one', () => {
    for (const mu of [1, 0.5])
      expect(addedAlbedo([once(0.6), once(0.5)], lambert(0.7), mu)).toBeCloseTo(
        addedAlbedo([once(0.3)], lambert(0.7), mu),
        6,
      )
  })
})
