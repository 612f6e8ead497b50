import { describe, expect, it } from 'vitest'
import { createLights } from '../light/create-lights'
import { rigSchema } from '../scene/rig'
import { rigs } from '../scene/rigs'
import { FormatError } from './error'
import { readRig, writeRig } from './rig-file'

describe('rig files', () => {
  it('come back as they were written', () => {
    for (const r of rigs(0.2)) expect(readRig(writeRig(r))).toEqual(JSON.parse(JSON.stringify(rigSchema.parse(r))))
  })
  it.each([
    ['{', 'light rig:'],
    ['[]', 'not a light rig'],
    ['{"format":"wavelume-rig","version":2}', 'version 2'],
    ['{"format":"wavelume-rig","version":1,"name":"x"}', 'environment'],
    [
      JSON.stringify({
        format: 'wavelume-rig',
        version: 1,
        name: 'x',
        environment: { kind: 'uniform', radiance: [1, -1, 1] },
      }),
      'environment.radiance.1',
    ],
  ])('says what is wrong with %s', (text, words) => {
    expect(() => readRig(text)).toThrow(FormatError)
    expect(() => readRig(text)).toThrow(words)
  })
})

describe('an environment picture', () => {
  const picture = { width: 8, height: 4, data: new Float32Array(8 * 4 * 4).fill(1) }
  it('turns by itself besides the rig: 90° of its own and −90° of the rig’s is no turn', () => {
    const of = (turn: number, own: number) => {
      const l = createLights(
        rigSchema.parse({ name: 'r', turn, environment: { kind: 'image', asset: 'a', turn: own } }),
        picture,
      )
      return [l.cos, l.sin].map(x => +x.toFixed(9))
    }
    expect(of(-90, 90)).toEqual([1, 0])
    expect(of(90, 0)).toEqual(of(0, 90))
  })
})
