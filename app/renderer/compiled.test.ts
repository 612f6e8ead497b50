import { expect, it } from 'vitest'
import { setValue } from '../../core/network/edit'
import { shapingKey } from '../../core/shape/shaping'
import { mtlx, uniform } from '../../core/testing/setup'
import { sceneSchema } from '../../core/scene/document'
import { createCompiled, shapingsByName, type Looking } from './compiled'

const document = mtlx(`<open_pbr_surface name="s" type="surfaceshader">
    <input name="base_weight" type="float" value="1"/></open_pbr_surface>
  <displacement name="d" type="displacementshader">
    <input name="displacement" type="float" value="0.1" wl_published="true"/></displacement>
  <surfacematerial name="m" type="material">
    <input name="surfaceshader" type="surfaceshader" nodename="s"/>
    <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial>`)
const plain: Looking = { tap: null, layerAlone: null, materialKey: 'k', materialName: 'm' }
const state = {
  scene: sceneSchema.parse({
    format: 'wavelume-scene',
    version: 1,
    model: 'x',
    parts: [
      { name: 'a', material: 'k' },
      { name: 'b', material: 'k', values: { 'd#displacement': '0.2' } },
      { name: 'c', material: 'none' },
    ],
    materials: { k: { material: 'm' } },
    cameras: [{ name: 'c', position: [0, 0, 5], target: [0, 0, 0], fov: 30 }],
    rigs: [uniform(1)],
    lights: 'u',
  }),
  materials: { k: document },
}
const keys = (now: typeof state, looking: Looking, hidden: string[] = []) => {
  const found = shapingsByName(now.scene.parts, hidden, createCompiled().worn(now, looking), () => [])
  return Object.fromEntries([...found].map(([part, s]) => [part, shapingKey(s)]))
}

it('parts are shaped by what they wear, with their own values; those without displacement or hidden are not', () => {
  const all = keys(state, plain)
  expect(Object.keys(all)).toEqual(['a', 'b'])
  expect(all.a).not.toBe(all.b)
  expect(Object.keys(keys(state, plain, ['a']))).toEqual(['b'])
})

it('what is looked at changes no shape, nor does an edit elsewhere; one of the amount does', () => {
  const before = keys(state, plain)
  expect(keys(state, { ...plain, tap: { material: 'k', node: 's' } })).toEqual(before)
  expect(keys(state, { ...plain, layerAlone: 's' })).toEqual(before)
  const edited = (node: string, input: string, value: string) => ({
    ...state,
    materials: { k: setValue(document, node, input, 'float', value) },
  })
  expect(keys(edited('s', 'base_weight', '0.5'), plain)).toEqual(before)
  expect(keys(edited('d', 'displacement', '0.3'), plain).a).not.toBe(before.a)
})
