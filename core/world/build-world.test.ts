import { expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { sceneSchema } from '../scene/document'
import { mtlx, uniform } from '../testing/setup'
import { castClosest, createRayBatch } from '../trace/cast'
import { buildWorld } from './build-world'

const material = (name: string, displaced: boolean) => `<surfacematerial name="${name}" type="material">
  <input name="surfaceshader" type="surfaceshader" nodename="s"/>
  ${displaced ? '<input name="displacementshader" type="displacementshader" nodename="d"/>' : ''}</surfacematerial>`
const document = mtlx(`<open_pbr_surface name="s" type="surfaceshader"/>
  <time name="t" type="float"/>
  <displacement name="d" type="displacementshader">
    <input name="displacement" type="float" nodename="t"/>
    <input name="scale" type="float" value="0.1"/></displacement>
  ${material('moved', true)}${material('still', false)}`)

/** Where a ray from far along an axis first meets the world of two balls. */
function distances(time: number): number[] {
  const world = buildWorld({
    scene: sceneSchema.parse({
      format: 'wavelume-scene',
      version: 1,
      model: 'm',
      parts: [
        { name: 'a', material: 'a' },
        { name: 'b', material: 'b' },
      ],
      materials: { a: { document: 'd', material: 'moved' }, b: { document: 'd', material: 'still' } },
      cameras: [{ name: 'c', position: [0, 0, 5], target: [0, 0, 0], fov: 30 }],
      rigs: [uniform(1)],
      lights: 'u',
    }),
    rig: uniform(1),
    model: { parts: [sphere('a', 1, 32, 64), sphere('b', 1, 32, 64, [0, 10, 0])] },
    documents: new Map([
      ['a', document],
      ['b', document],
    ]),
    picture: () => undefined,
    bake: false,
    time,
  })
  const rays = createRayBatch(2)
  rays.origin.set([0, 0, 5, 0, 10, 5])
  rays.direction.set([0, 0, -1, 0, 0, -1])
  rays.distance.fill(Infinity)
  castClosest(world.geometry.hierarchy, rays, 2)
  return [...rays.distance.subarray(0, 2)]
}

it('a part is traced as its material displaces it, at the time of the world; others as they are', () => {
  expect(distances(0)[0]).toBeCloseTo(4, 2)
  expect(distances(3)[0]).toBeCloseTo(3.7, 2)
  expect(distances(3)[1]).toBeCloseTo(4, 2)
})
