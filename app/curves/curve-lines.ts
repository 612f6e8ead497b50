import type { Curves } from '../../core/judge/curves'

/** One line of a chart. Its colour is a custom property of the theme. */
export interface Line {
  name: string
  colour: string
  dash?: 'solid' | 'dashed' | 'dotted'
  points: [number, number][]
}

/** Wavelengths that stand for blue, green and red in curves against the angle, and what they are drawn in. */
export const COMPONENTS = [
  ['450 nm', '--line-blue'],
  ['550 nm', '--line-green'],
  ['650 nm', '--line-red'],
] as const

/** Least transmittance that is worth a line. */
const PASSES = 1e-4

/** What comes back and what goes through against the angle, a line for each of {@link COMPONENTS}. */
export function linesByAngle(c: Curves | null, dash: Line['dash'] = 'solid', through = true): Line[] {
  return c
    ? COMPONENTS.flatMap(([name, colour], k): Line[] => {
        const line = (of: number[][], dash: Line['dash'], what: string): Line => ({
          name: `${what} ${name}`,
          colour,
          dash,
          points: c.angles.map((a, i) => [a, of[i]![k]!]),
        })
        return [
          line(c.reflectance, dash, 'back'),
          ...(through && c.transmittance.some(t => t[k]! > PASSES)
            ? [line(c.transmittance, 'dotted', 'through')]
            : []),
        ]
      })
    : []
}

/** The same against the wavelength. */
export function linesByWavelength(c: Curves | null, dash: Line['dash'] = 'solid', through = true): Line[] {
  const line = (of: number[], dash: Line['dash'], name: string): Line => ({
    name,
    colour: '--ink',
    dash,
    points: c!.wavelengths.map((w, i) => [w, of[i]!]),
  })
  return c
    ? [
        line(c.spectrum, dash, 'back'),
        ...(through && c.passed.some(t => t > PASSES) ? [line(c.passed, 'dotted', 'through')] : []),
      ]
    : []
}
