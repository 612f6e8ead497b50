import { createLights } from '../../core/light/create-lights'
import { quad } from '../../core/mesh/quad'
import { sphere } from '../../core/mesh/sphere'
import type { Element } from '../../core/network/document'
import { rigs } from '../../core/scene/rigs'
import { createGeometry } from '../../core/scene/geometry'
import { compileMaterial } from '../../core/world/compile-material'
import type { World } from '../../core/world/world'
import type { Benchmark } from '../command'
import { renderOnThreads } from '../pool'
import { plain } from './scene'
import { median } from './median'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const PARTS = 200
const SIDE = 20
const [WIDTH, HEIGHT] = [640, 400]
const VIEW = {
  name: 'c',
  position: [0, 2.6, 3.2] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 40,
}

/** A speckled paint of two values. @param more nodes in a row, so that sources differ */
function paint(i: number, more: number): Element {
  const grow = Array.from(
    { length: more },
    (_, k) =>
      `<add name="a${k}" type="float"><input name="in1" type="float" nodename="${k ? `a${k - 1}` : 'n'}"/>
        <input name="in2" type="float" value="0.0001"/></add>`,
  ).join('')
  return plain(`
    <texcoord name="uv" type="vector2"/>
    <multiply name="m" type="vector2"><input name="in1" type="vector2" nodename="uv"/>
      <input name="in2" type="vector2" value="${20 + i}, 20"/></multiply>
    <noise2d name="n" type="float"><input name="texcoord" type="vector2" nodename="m"/></noise2d>${grow}
    <mix name="c" type="color3"><input name="fg" type="color3" value="${(i % 7) / 8}, ${(i % 5) / 6}, 0.3"/>
      <input name="bg" type="color3" value="0.5, ${(i % 11) / 12}, 0.2"/>
      <input name="mix" type="float" nodename="${more ? `a${more - 1}` : 'n'}"/></mix>
    <open_pbr_surface name="s" type="surfaceshader"><input name="base_color" type="color3" nodename="c"/>
      <input name="specular_roughness" type="float" value="${0.2 + (i % 9) / 20}"/></open_pbr_surface>`)
}

/** @param wears number of the material that each ball wears, and how many nodes longer than the others it is */
function world(wears: (ball: number) => [material: number, more: number]): World {
  const geometry = createGeometry(
    {
      parts: [
        ...Array.from({ length: PARTS }, (_, i) =>
          sphere(`Ball ${i}`, 0.08, 12, 24, [((i % SIDE) - 9.5) * 0.2, 0.08, (Math.floor(i / SIDE) - 4.5) * 0.2]),
        ),
        quad('Ground', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4]),
      ],
    },
    undefined,
    shared,
  )
  const kinds = Array.from({ length: PARTS }, (_, i) => wears(i))
  const count = Math.max(...kinds.map(([m]) => m)) + 1
  const programs = Array.from({ length: count }, (_, m) => {
    const [, more] = kinds.find(k => k[0] === m)!
    return compileMaterial(paint(m, more), 'm')
  })
  return {
    geometry,
    lights: createLights(rigs(0.7)[0]!, null, shared),
    programs,
    maps: programs.map(() => []),
    materialOf: Int32Array.from([...kinds.map(([m]) => m), 0]),
    priorityOf: new Int32Array(PARTS + 1),
    maxOpaque: 8,
    maxSpecular: 24,
  }
}

const WORLDS = {
  one: () => world(() => [0, 0]),
  equal: () => world(i => [i, 0]),
  different: () => world(i => [i, i % 100]),
}

/** `benchmark materials`: paths a second of 200 parts with one material, 200 of one source, 200 of many. */
async function benchmarkMaterials(rounds: number): Promise<unknown> {
  const names = Object.keys(WORLDS) as (keyof typeof WORLDS)[]
  const cold: Record<string, number[]> = {}
  const warm: Record<string, number[]> = {}
  for (let round = 0; round < rounds; round++)
    for (const name of names) {
      const w = WORLDS[name]()
      const marks: [done: number, at: number][] = []
      const r = await renderOnThreads(w, VIEW, {
        width: WIDTH,
        height: HEIGHT,
        seed: 0,
        threads: 1,
        aov: [],
        from: 0,
        to: 24,
        progress: done => void marks.push([done, performance.now()]),
      })
      const at = (share: number) => marks.find(([done]) => done >= share) ?? marks.at(-1)!
      const early = at(1 / 3)
      const end = marks.at(-1)!
      const rest = (r.paths * (end[0] - early[0])) / ((end[1] - early[1]) / 1000)
      ;(cold[name] ??= []).push((r.paths * early[0]) / (r.seconds - (end[1] - early[1]) / 1000))
      ;(warm[name] ??= []).push(rest)
    }
  const told = (of: Record<string, number[]>) =>
    Object.fromEntries(
      names.map(n => [
        n,
        `${Math.round(median(of[n]!) / 1000)} k, ${(median(of[n]!) / median(of.one!)).toFixed(3)} of one`,
      ]),
    )
  return { firstEightPasses: told(cold), afterThem: told(warm), accept: { equalOverOne: 0.8 } }
}

export const benchmark: Benchmark = {
  options: '[--rounds N]',
  run: o => benchmarkMaterials(o.number('rounds', 3, 1, 20)),
}
