import { Document, NodeIO } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { readGlb } from '../formats/models/glb'
import { writeGlb } from '../formats/models/glb-write'
import type { Model, Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { memory } from '../nodes/memory'
import { curvatureAt, layFootprint } from '../point/footprint'
import { POINT } from '../point/slots'
import { pointOf, three } from '../testing/point-of'
import { mtlx } from '../testing/setup'
import { createGeometry } from './geometry'
import { packGeometry, unpackGeometry } from './geometry-pack'

/** A ball in a file, moved by its node: turned by 90° about z, stretched, put at (5, 1, −2). */
async function moved(): Promise<Model> {
  const document = new Document()
  const buffer = document.createBuffer()
  const ball = sphere('ball', 1, 48, 96)
  const accessor = (type: 'VEC3' | 'VEC2' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', ball.position))
    .setAttribute('NORMAL', accessor('VEC3', ball.normal))
    .setAttribute(
      'TEXCOORD_0',
      accessor(
        'VEC2',
        ball.uv.map((x, i) => (i % 2 ? 1 - x : x)),
      ),
    )
    .setAttribute(
      'TEXCOORD_2',
      accessor(
        'VEC2',
        ball.uv.map((x, i) => (i % 2 ? 1 - 3 * x : 2 * x)),
      ),
    )
    .setIndices(accessor('SCALAR', ball.index))
  const h = Math.SQRT1_2
  const node = document
    .createNode('ball')
    .setMesh(document.createMesh().addPrimitive(primitive))
    .setRotation([0, 0, h, h])
    .setScale([2, 1, 1])
    .setTranslation([5, 1, -2])
  document.createScene().addChild(node)
  return readGlb(await new NodeIO().writeBinary(document))
}

describe('spaces of a point', () => {
  it('position and normal of a part that its file moved are those of the ball that it was', async () => {
    const geometry = createGeometry(await moved())
    for (const from of [
      [5, 9, -2],
      [0, 1, -2],
      [5.3, 1.4, 4],
    ]) {
      const S = pointOf(geometry, from, [5 - from[0]!, 1 - from[1]!, -2 - from[2]!])
      const [x, y, z] = three(S, POINT.position) as [number, number, number]
      // closed form: back from (5, 1, −2), turned by −90° (x, y → y, −x), the first axis halved
      const own = [(y - 1) / 2, -(x - 5), z + 2]
      three(S, POINT.objectPosition).forEach((p, k) => expect(p).toBeCloseTo(own[k]!, 5))
      const l = Math.hypot(...own)
      three(S, POINT.objectNormal).forEach((n, k) => expect(n).toBeCloseTo(own[k]! / l, 2))
      expect(Math.hypot(...three(S, POINT.objectTangent))).toBeCloseTo(1, 9)
    }
  })

  it('copies have the space of their mesh, and parts that nothing moved have the scene’s', () => {
    const ball = sphere('ball', 1, 24, 48)
    const far = Float64Array.of(0, -3, 0, 10, 3, 0, 0, 0, 0, 0, 3, 0)
    const copy: Part = {
      name: 'copy',
      position: new Float32Array(0),
      normal: new Float32Array(0),
      uv: new Float32Array(0),
      index: new Uint32Array(0),
      copy: { of: 0, transform: far },
    }
    const geometry = createGeometry({ parts: [ball, copy] })
    const S = pointOf(geometry, [10.5, 0.7, 9], [0, 0, -1])
    expect(S[POINT.part]).toBe(1)
    const [x, y, z] = three(S, POINT.position) as [number, number, number]
    const own = [y / 3, (10 - x) / 3, z / 3]
    three(S, POINT.objectPosition).forEach((p, k) => expect(p).toBeCloseTo(own[k]!, 5))
    const still = createGeometry({ parts: [ball] })
    expect(still.spaces.length).toBe(0)
    const T = pointOf(still, [0.2, 0.3, 5], [0, 0, -1])
    expect(three(T, POINT.objectPosition)).toEqual(three(T, POINT.position))
    expect(three(T, POINT.objectNormal)).toEqual(three(T, POINT.normal))
  })

  it('networks ask for them by the standard’s words, object space where nothing is said', async () => {
    const geometry = createGeometry(await moved())
    const S = pointOf(geometry, [5, 9, -2], [0.05, -1, 0.02])
    const value = (tag: string, space?: string) => {
      const p = compileNetwork(
        mtlx(
          `<${tag} name="n" type="vector3">` +
            (space ? `<input name="space" type="string" value="${space}"/>` : '') +
            `</${tag}>`,
        ),
        'n',
      )
      expect(p.faults).toEqual([])
      instantiate(p, []).value(S, Float64Array.from(p.constants), [])
      return [...memory.result.subarray(0, 3)]
    }
    for (const [tag, world, object] of [
      ['position', POINT.position, POINT.objectPosition],
      ['normal', POINT.normal, POINT.objectNormal],
      ['tangent', POINT.tangent, POINT.objectTangent],
    ] as const) {
      expect(value(tag, 'world')).toEqual(three(S, world))
      for (const space of ['object', 'model', undefined]) expect(value(tag, space)).toEqual(three(S, object))
    }
    const wrong = compileNetwork(
      mtlx('<position name="n" type="vector3"><input name="space" type="string" value="moon"/></position>'),
      'n',
    )
    expect(wrong.faults[0]!.message).toBe('space is object, model or world')
  })
})

it('a ball bulges by 1/R whichever way its file’s normals point', () => {
  const ball = sphere('ball', 0.5, 64, 128)
  for (const normal of [ball.normal, ball.normal.map(x => -x)]) {
    const S = pointOf(createGeometry({ parts: [{ ...ball, normal }] }), [0.1, 0.15, 3], [0, 0, -1])
    expect(curvatureAt(S)).toBeCloseTo(2, 1)
  }
})

describe('sets of coordinates', () => {
  it('are read, written, kept and looked at by number', async () => {
    const model = await moved()
    expect(model.parts[0]!.uvMore!.map(set => set.length > 0)).toEqual([false, true])
    const again = await readGlb(await writeGlb(model))
    expect(again.parts[0]!.uvMore![1]).toEqual(model.parts[0]!.uvMore![1])
    const built = createGeometry(model)
    const geometry = unpackGeometry(packGeometry(built), n => new ArrayBuffer(n))!
    expect([geometry.uvMore, geometry.spaces, geometry.tangent]).toEqual([
      built.uvMore,
      built.spaces,
      built.tangent,
    ])
    const S = pointOf(geometry, [5, 9, -2], [0.05, -1, 0.02])
    S[POINT.footprint] = 0.01
    layFootprint(S)
    const at = (index: number) => {
      const p = compileNetwork(
        mtlx(`<texcoord name="n" type="vector2"><input name="index" type="integer" value="${index}"/></texcoord>`),
        'n',
      )
      if (p.faults.length) return p.faults[0]!.message
      instantiate(p, []).value(S, Float64Array.from(p.constants), [])
      return [...memory.result.subarray(0, 2)]
    }
    const [u, v] = at(0) as number[]
    expect(at(1)).toEqual([0, 0])
    ;(at(2) as number[]).forEach((x, k) => expect(x).toBeCloseTo([2 * u!, 3 * v!][k]!, 5))
    expect(at(4)).toContain('index is 0 to 3')
    // a definition of one's own may ask for a set by name where nothing is wired
    const named = compileNetwork(
      mtlx(`<nodedef name="ND_third" node="third">
          <input name="uv" type="vector2" defaultgeomprop="UV2"/><output name="out" type="vector2"/></nodedef>
        <nodegraph name="NG_third" nodedef="ND_third">
          <add name="s" type="vector2"><input name="in1" type="vector2" interfacename="uv"/></add>
          <output name="out" type="vector2" nodename="s"/></nodegraph>
        <third name="t" type="vector2"/>
        <add name="n" type="vector2"><input name="in1" type="vector2" nodename="t"/></add>`),
      'n',
    )
    expect(named.faults).toEqual([])
    instantiate(named, []).value(S, Float64Array.from(named.constants), [])
    expect([...memory.result.subarray(0, 2)]).toEqual(at(2))
    // and they grow with the first: twice and three times as fast
    expect([...S.subarray(POINT.uvMoreBy + 4, POINT.uvMoreBy + 8)]).toEqual(
      [2, 0, 0, 3].map(x => expect.closeTo(x, 4)),
    )
  })
})
