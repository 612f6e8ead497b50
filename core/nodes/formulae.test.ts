import { describe, expect, it } from 'vitest'
import { hsv } from 'culori'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { createTexture, type Texture } from '../maps/texture'
import { mtlx, valueAt } from '../testing/setup'
import { memory } from './memory'

const { result } = memory

const input = (name: string, value: string) =>
  `<input name="${name}" type="${typeOf(name, value)}" value="${value}"/>`
const typeOf = (name: string, value: string) =>
  name === 'amount' && value.includes(',')
    ? 'vector3'
    : name === 'operationorder' || name === 'seed'
      ? 'integer'
      : value === 'true' || value === 'false'
        ? 'boolean'
        : ['float', 'vector2', VECTOR[0]!, 'color4'][value.split(',').length - 1]!
const VECTOR = ['vector3']
/** A node with inputs "name value"; three numbers are colours where the node gives one. */
function evaluate(
  tag: string,
  type: string,
  inputs: Record<string, string>,
  u = 0.3,
  v = 0.6,
  images: (Texture | null)[] = [],
): number[] {
  VECTOR[0] = type.startsWith('color') || tag === 'luminance' ? 'color3' : 'vector3'
  const p = compileNetwork(
    mtlx(
      `<${tag} name="n" type="${type}">${Object.entries(inputs)
        .map(([k, x]) => input(k, x))
        .join('')}</${tag}>`,
    ),
    'n',
  )
  expect(p.faults.filter(f => f.severity === 'error')).toEqual([])
  return valueAt(instantiate(p, images), Float64Array.from(p.constants), result, u, v).slice(0, p.size)
}

/**
 * Worked by hand from the formulae of the MaterialX specification; turns, and what is top or first, as the standard's
 * library has them (`standard-values.test.ts`).
 */
const CASES: [tag: string, type: string, inputs: Record<string, string>, expected: number[]][] = [
  ['absval', 'vector3', { in: '-1, 2, -0.5' }, [1, 2, 0.5]],
  ['sign', 'float', { in: '-0.2' }, [-1]],
  ['floor', 'float', { in: '-0.2' }, [-1]],
  ['ceil', 'float', { in: '1.2' }, [2]],
  ['round', 'float', { in: '1.5' }, [2]],
  ['fract', 'float', { in: '-0.25' }, [0.75]],
  ['sin', 'float', { in: '1.5707963267948966' }, [1]],
  ['cos', 'float', { in: '1.0471975511965976' }, [0.5]],
  ['tan', 'float', { in: '0.7853981633974483' }, [1]],
  ['asin', 'float', { in: '0.5' }, [Math.PI / 6]],
  ['acos', 'float', { in: '0.5' }, [Math.PI / 3]],
  ['atan2', 'float', { iny: '1', inx: '-1' }, [(3 * Math.PI) / 4]],
  ['sqrt', 'float', { in: '6.25' }, [2.5]],
  ['ln', 'float', { in: '7.38905609893065' }, [2]],
  ['exp', 'float', { in: '2' }, [7.38905609893065]],
  ['min', 'color3', { in1: '0.1, 0.5, 0.9', in2: '0.4, 0.4, 0.4' }, [0.1, 0.4, 0.4]],
  ['max', 'float', { in1: '0.1', in2: '0.4' }, [0.4]],
  ['safepower', 'float', { in1: '-4', in2: '0.5' }, [-2]],
  ['magnitude', 'float', { in: '2, 3, 6' }, [7]],
  ['normalize', 'vector3', { in: '0, 3, 4' }, [0, 0.6, 0.8]],
  ['normalize', 'vector3', { in: '0, 0, 0' }, [0, 0, 0]],
  ['dotproduct', 'float', { in1: '1, 2, 3', in2: '4, -5, 6' }, [12]],
  ['crossproduct', 'vector3', { in1: '1, 0, 0', in2: '0, 1, 0' }, [0, 0, 1]],
  ['distance', 'float', { in1: '1, 1, 1', in2: '3, 4, 7' }, [7]],
  ['reflect', 'vector3', { in: '1, -1, 0', normal: '0, 1, 0' }, [1, 1, 0]],
  ['rotate2d', 'vector2', { in: '1, 0', amount: '90' }, [0, -1]],
  ['rotate3d', 'vector3', { in: '1, 0, 0', amount: '90', axis: '0, 0, 2' }, [0, -1, 0]],
  ['rotate3d', 'vector3', { in: '1, 2, 3', amount: '120', axis: '1, 1, 1' }, [2, 3, 1]],
  [
    'place2d',
    'vector2',
    { texcoord: '1, 0.5', pivot: '0.5, 0.5', scale: '0.5, 0.5', rotate: '90', offset: '0.25, 0' },
    [0.25, -0.5],
  ],
  [
    'place2d',
    'vector2',
    {
      texcoord: '1, 0.5',
      pivot: '0.5, 0.5',
      scale: '0.5, 0.5',
      rotate: '90',
      offset: '0.25, 0',
      operationorder: '1',
    },
    [0.5, 0],
  ],
  ['and', 'boolean', { in1: 'true', in2: 'false' }, [0]],
  ['or', 'boolean', { in1: 'true', in2: 'false' }, [1]],
  ['xor', 'boolean', { in1: 'true', in2: 'true' }, [0]],
  ['not', 'boolean', { in: 'false' }, [1]],
  ['ifgreater', 'float', { value1: '2', value2: '1', in1: '5', in2: '7' }, [5]],
  ['ifgreater', 'float', { value1: '1', value2: '1', in1: '5', in2: '7' }, [7]],
  ['ifgreatereq', 'float', { value1: '1', value2: '1', in1: '5', in2: '7' }, [5]],
  ['ifequal', 'float', { value1: '1', value2: '1.5', in1: '5', in2: '7' }, [7]],
  ['ifgreater', 'boolean', { value1: '2', value2: '1' }, [1]],
  ['switch', 'float', { in1: '10', in2: '20', in3: '30', which: '1.7' }, [20]],
  ['switch', 'float', { in1: '10', in2: '20', which: '-3' }, [10]],
  ['range', 'float', { in: '0.25', inlow: '0', inhigh: '1', gamma: '2', outlow: '10', outhigh: '20' }, [15]],
  ['range', 'float', { in: '3', inlow: '0', inhigh: '1', outlow: '10', outhigh: '20', doclamp: 'true' }, [20]],
  ['range', 'float', { in: '3', inlow: '0', inhigh: '1', outlow: '10', outhigh: '20', doclamp: 'false' }, [40]],
  ['luminance', 'color3', { in: '0.5, 0.25, 1', lumacoeffs: '0.2, 0.7, 0.1' }, [0.375, 0.375, 0.375]],
  ['saturate', 'color3', { in: '0.5, 0.25, 1', amount: '0', lumacoeffs: '0.2, 0.7, 0.1' }, [0.375, 0.375, 0.375]],
  ['saturate', 'color3', { in: '0.5, 0.25, 1', amount: '2', lumacoeffs: '0.2, 0.7, 0.1' }, [0.625, 0.125, 1.625]],
  ['hsvadjust', 'color3', { in: '1, 0, 0', amount: '0.3333333333333333, 1, 0.5' }, [0, 0.5, 0]],
  ['plus', 'float', { fg: '0.5', bg: '0.25', mix: '0.5' }, [0.5]],
  ['minus', 'float', { fg: '0.5', bg: '0.25' }, [-0.25]],
  ['difference', 'float', { fg: '0.5', bg: '0.25' }, [0.25]],
  ['screen', 'float', { fg: '0.5', bg: '0.5' }, [0.75]],
  ['overlay', 'float', { fg: '0.5', bg: '0.25' }, [0.25]],
  ['overlay', 'float', { fg: '0.25', bg: '0.75' }, [0.625]],
  ['burn', 'float', { fg: '0.5', bg: '0.75' }, [0.5]],
  ['burn', 'float', { fg: '0', bg: '0.75' }, [0]],
  ['dodge', 'float', { fg: '0.5', bg: '0.25' }, [0.5]],
  ['inside', 'float', { in: '0.5', mask: '0.25' }, [0.125]],
  ['outside', 'float', { in: '0.5', mask: '0.25' }, [0.375]],
  [
    'checkerboard',
    'color3',
    { color1: '1, 0, 0', color2: '0, 0, 1', uvtiling: '2, 2', texcoord: '0.25, 0.25' },
    [0, 0, 1],
  ],
  [
    'checkerboard',
    'color3',
    { color1: '1, 0, 0', color2: '0, 0, 1', uvtiling: '2, 2', texcoord: '-0.25, 0.25' },
    [1, 0, 0],
  ],
  ['circle', 'float', { texcoord: '0.3, 0.4', radius: '0.51' }, [1]],
  ['circle', 'float', { texcoord: '0.3, 0.4', radius: '0.49' }, [0]],
  ['ramp4', 'float', { valuetl: '0', valuetr: '4', valuebl: '8', valuebr: '16', texcoord: '0.25, 0.5' }, [5.5]],
  ['splitlr', 'float', { valuel: '1', valuer: '2', center: '0.5', texcoord: '0.6, 0' }, [2]],
  ['splittb', 'float', { valuet: '1', valueb: '2', center: '0.5', texcoord: '0, 0.6' }, [2]],
]

describe('formulae', () => {
  it.each(CASES)('%s of %s with %o', (tag, type, inputs, expected) => {
    const got = evaluate(tag, type, inputs)
    expect(got).toHaveLength(expected.length)
    got.forEach((x, k) => expect(x).toBeCloseTo(expected[k]!, 9))
  })
  it('hue, saturation and value agree with an outside library, and come back', () => {
    for (let i = 0; i < 200; i++) {
      const c = [0, 1, 2].map(k => (Math.sin(i * 91.7 + k * 47.3) + 1) / 2)
      const there = evaluate('rgbtohsv', 'color3', { in: c.join(', ') })
      const other = hsv({ mode: 'rgb', r: c[0]!, g: c[1]!, b: c[2]! })
      expect(there[0]! * 360).toBeCloseTo(other.h ?? 0, 6)
      expect(there[1]).toBeCloseTo(other.s, 9)
      expect(there[2]).toBeCloseTo(other.v, 9)
      evaluate('hsvtorgb', 'color3', { in: there.join(', ') }).forEach((x, k) => expect(x).toBeCloseTo(c[k]!, 9))
    }
  })
  it('randomfloat stays between its bounds, spreads evenly and depends on the seed', () => {
    const values = Array.from(
      { length: 400 },
      (_, i) => evaluate('randomfloat', 'float', { in: String(i / 7), min: '2', max: '4' })[0]!,
    )
    expect(Math.min(...values)).toBeGreaterThanOrEqual(2)
    expect(Math.max(...values)).toBeLessThanOrEqual(4)
    // mean of a uniform distribution, within 4 standard errors: 2/√12/√400
    expect(Math.abs(values.reduce((a, b) => a + b, 0) / 400 - 3)).toBeLessThan((4 * 2) / Math.sqrt(12) / 20)
    expect(evaluate('randomfloat', 'float', { in: '0.5', seed: '1' })[0]).not.toBe(
      evaluate('randomfloat', 'float', { in: '0.5', seed: '2' })[0],
    )
  })
  it('triplanarprojection takes the image of the axis that the surface faces', () => {
    const flat = (x: number) => createTexture(1, 1, Uint8Array.from([x, x, x, 255]), 'raw')
    const body = ['x', 'y', 'z'].map(a => `<input name="file${a}" type="filename" value="${a}.png"/>`).join('')
    const of = (normal: string) => {
      const p = compileNetwork(
        mtlx(
          `<triplanarprojection name="n" type="float">
            ${body}<input name="normal" type="vector3" value="${normal}"/></triplanarprojection>`,
        ),
        'n',
      )
      return valueAt(
        instantiate(p, [flat(0), flat(51), flat(255)]),
        Float64Array.from(p.constants),
        result,
        0.2,
        0.3,
      )[0]!
    }
    expect(of('1, 0, 0')).toBeCloseTo(0, 9)
    expect(of('0, -1, 0')).toBeCloseTo(0.2, 7)
    expect(of('0, 0, 1')).toBeCloseTo(1, 9)
    expect(of('0, 1, 1')).toBeCloseTo(0.6, 7)
  })

  // the standard's library, as the source that it generates for the node shows (1.39.4)
  it.each([
    [
      0,
      [
        [2, 1],
        [2, 0],
        [3, 0],
      ],
    ],
    [
      1,
      [
        [2, 1],
        [0, 2],
        [0, 1],
      ],
    ],
    [
      2,
      [
        [1, 2],
        [0, 2],
        [0, 1],
      ],
    ],
  ] as const)('triplanarprojection with the axis %i up reads each picture the right way round', (up, uv) => {
    // columns and rows of a picture of 4 by 4 from the lower left; of −y the column is counted from the right
    const cell = [0, 1, 2]
    const position = cell.map(k => (k + 0.5) / 4)
    const picture = createTexture(
      4,
      4,
      Uint8Array.from({ length: 64 }, (_, i) => (i % 4 === 3 ? 255 : ((i >> 2) % 4) * 4 + 3 - (i >> 4))),
      'raw',
    )
    for (const axis of [0, 1, 2]) {
      const p = compileNetwork(
        mtlx(
          `<triplanarprojection name="n" type="float">
            ${['x', 'y', 'z'].map(a => `<input name="file${a}" type="filename" value="p.png"/>`).join('')}
            <input name="filtertype" type="string" value="closest"/>
            <input name="upaxis" type="integer" value="${up}"/>
            <input name="position" type="vector3" value="${position.join(', ')}"/>
            <input name="normal" type="vector3" value="${cell.map(k => Number(k === axis)).join(', ')}"/>
          </triplanarprojection>`,
        ),
        'n',
      )
      const got = valueAt(
        instantiate(
          p,
          p.images.map(() => picture),
        ),
        Float64Array.from(p.constants),
        result,
        0,
        0,
      )
      const column = uv[axis]![0] === 3 ? 3 - cell[1]! : cell[uv[axis]![0]]!
      expect(Math.round(got[0]! * 255)).toBe(column * 4 + cell[uv[axis]![1]]!)
    }
  })
})
