import { expect, it } from 'vitest'
import { createLights } from '../light/create-lights'
import { createMap } from '../maps/create-map'
import { quad } from '../mesh/quad'
import { compileNetwork } from '../network/compile'
import { createGeometry } from '../scene/geometry'
import { mtlx, pbr, uniform } from '../testing/setup'
import { changeBetween, changedWorld } from './change'
import type { World } from './world'

const floor = () => createGeometry({ parts: [quad('floor', [0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1])] })
const program = () => compileNetwork(mtlx(pbr({})), 's')
const map = () => createMap({ width: 1, height: 1, data: Float32Array.of(1, 1, 1, 1) }, 'raw')
const before: World = {
  geometry: floor(),
  lights: createLights(uniform(1), null),
  programs: [program(), program(), program()],
  maps: [[map()], [null], []],
  materialOf: Int32Array.of(0),
  priorityOf: Int32Array.of(0),
  maxOpaque: 4,
  maxSpecular: 8,
}

it('nothing is said of a world that stays', () => {
  const same = { ...before, materialOf: before.materialOf.slice(), programs: [...before.programs] }
  expect(changeBetween(before, same)).toEqual({ materials: [], count: 3, other: {} })
})

it('only what is new is said, and makes the new world of the old one', () => {
  const after: World = {
    ...before,
    lights: createLights(uniform(2), null),
    programs: [before.programs[0]!, before.programs[1]!, program(), program()],
    maps: [before.maps[0]!, [map()], [], []],
    materialOf: Int32Array.of(3),
    clamp: 5,
  }
  const change = changeBetween(before, after)!
  // the second has another map, the third another program, the fourth is new
  expect(change.materials.map(m => m.at)).toEqual([1, 2, 3])
  expect(Object.keys(change.other).sort()).toEqual(['clamp', 'lights', 'materialOf'])
  expect(changedWorld(before, change)).toEqual(after)
  const fewer: World = { ...before, programs: before.programs.slice(0, 1), maps: before.maps.slice(0, 1) }
  expect(changedWorld(after, changeBetween(after, fewer)!).programs).toEqual(fewer.programs)
})

it('another geometry is another world', () => {
  expect(changeBetween(before, { ...before, geometry: floor() })).toBe(null)
})
