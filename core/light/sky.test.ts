import { describe, expect, it } from 'vitest'
import { colourOfTemperature, planckXY } from '../colour/temperature'
import { quad } from '../mesh/quad'
import { toneNeutral } from '../render/tone'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'
import { rigSchema } from '../scene/rig'
import { skyOfType } from './sky'

const floor = { parts: [quad('floor', [-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1])] }
const white = materialOf(mtlx(pbr({ base_color: '1, 1, 1', specular_weight: 0 })), 's')
const down = (height = 2) => ({
  name: 'c',
  position: [0, height, 0.001] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 0.5,
})
/** Radiance of a white floor below `rig`: irradiance over π. */
const shown = (rig: object, passes = 64) =>
  meanColour(
    sumOfPasses(
      sceneOf(
        floor,
        [white],
        rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, ...rig }),
        down(),
        8,
        8,
      ),
      8,
      8,
      0,
      passes,
    ),
    passes,
  )

describe('skies of ISO 15469', () => {
  it('type 5 is uniform; type 1 is a third as bright at the horizon as at the zenith', () => {
    for (const c of [0.1, 0.5, 1]) expect(skyOfType(5, 0.5)(c, 0.3)).toBeCloseTo(1, 12)
    expect(skyOfType(1, 0.5)(0.001, 0)).toBeCloseTo(1 / (1 + 4 * Math.exp(-0.7)), 6)
    expect(skyOfType(1, 0.5)(0.001, 0)).toBeCloseTo(1 / 3, 2)
  })
  it('the clear sky (12) is darkest about a right angle from the sun', () => {
    const sun = Math.cos(Math.PI / 4)
    const at = (zenith: number) => skyOfType(12, sun)(Math.cos(zenith), Math.cos(zenith + Math.PI / 4))
    expect(at(Math.PI / 4)).toBeLessThan(at(0))
    expect(at(Math.PI / 4)).toBeLessThan(at(1.35))
    expect(skyOfType(12, sun)(sun, 1)).toBeGreaterThan(3 * skyOfType(12, sun)(1, sun))
  })
  it('gives a level plane what its level says, whatever the type; its sun what the cosine leaves', () => {
    // the sky's picture is drawn and looked up in pieces of its pixels
    for (const type of [1, 12])
      expect(
        Math.abs(
          shown({ environment: { kind: 'sky', type, scale: 0.8, temperature: 6500, elevation: 50 } })[1]! -
            0.8 * colourOfTemperature(6500)[1],
        ),
      ).toBeLessThan(0.02)
    const both = shown({ environment: { kind: 'sky', type: 5, scale: 0.5, sun: 2, elevation: 30, ground: 0 } })
    const sky = shown({ environment: { kind: 'sky', type: 5, scale: 0.5, elevation: 30, ground: 0 } })
    const colour = colourOfTemperature(5800)
    both.forEach((x, k) =>
      expect(Math.abs(x - sky[k]! - 2 * Math.sin(Math.PI / 6) * colour[k]!)).toBeLessThan(0.03),
    )
  })
})

describe('panels', () => {
  const panel = (more: object) => ({
    panels: [{ name: 'p', centre: [0, 1, 0], u: [0.5, 0, 0], v: [0, 0, 0.5], radiance: [1, 1, 1], ...more }],
  })
  it('a disc of half angle θ on axis gives E = πL·sin²θ (Lambert)', () => {
    const sin2 = 0.25 / 1.25
    shown(panel({ shape: 'disc' })).forEach(x => expect(Math.abs(x - sin2)).toBeLessThan(0.004))
  })
  it('a blocker before it keeps its light off, and what it leaves free shines', () => {
    const blocked = (half: number) =>
      shown({
        panels: [
          panel({ shape: 'disc' }).panels[0],
          {
            name: 'b',
            centre: [0, 0.5, 0],
            u: [half, 0, 0],
            v: [0, 0, half],
            radiance: [0, 0, 0],
            blocks: true,
            shape: 'disc',
          },
        ],
      })[1]!
    expect(blocked(0.5)).toBeLessThan(1e-6)
    // seen from the floor the smaller disc covers the middle: sin² of its own half angle
    expect(Math.abs(blocked(0.125) - (0.2 - 0.015625 / 0.265625))).toBeLessThan(0.004)
  })
  it('a soft edge takes light away, by the mean of its fall', () => {
    // smoothstep over the whole radius from above: ∫ 2r·s(1 − r) dr = 3/10
    const far = (more: object) =>
      shown({
        panels: [
          {
            name: 'p',
            centre: [0, 40, 0],
            u: [0.5, 0, 0],
            v: [0, 0, 0.5],
            radiance: [400, 400, 400],
            shape: 'disc',
            ...more,
          },
        ],
      })[1]!
    expect(far({ soft: 1 }) / far({})).toBeCloseTo(0.3, 2)
  })
})

describe('colour temperature', () => {
  it('2856 K lands on illuminant A, 6504 K near D65 (CIE 015)', () => {
    const [ax, ay] = planckXY(2856)
    const [dx, dy] = planckXY(6504)
    expect(Math.hypot(ax - 0.44758, ay - 0.40745)).toBeLessThan(6e-4)
    expect(Math.hypot(dx - 0.31272, dy - 0.32903)).toBeLessThan(0.006)
    const warm = colourOfTemperature(2856)
    expect(warm[0]).toBe(1)
    expect(warm[2]).toBeLessThan(warm[1])
  })
})

describe('Khronos PBR Neutral', () => {
  const mapped = (...c: number[]) => {
    const t = Float64Array.from(c)
    toneNeutral(t)
    return Array.from(t)
  }
  it(
    'takes the toe off what is dark enough and keeps its differences; white never clips; bright colours ' +
      'turn pale',
    () => {
      mapped(0.3, 0.2, 0.5).forEach((x, k) => expect(x).toBeCloseTo([0.26, 0.16, 0.46][k]!, 12))
      for (const x of mapped(50, 50, 50)) {
        expect(x).toBeLessThan(1)
        expect(x).toBeGreaterThan(0.99)
      }
      const [r, , b] = mapped(20, 0.5, 0.5)
      expect(b).toBeGreaterThan(0.5)
      expect(r).toBeLessThan(1)
    },
  )
})
