import { describe, expect, it } from 'vitest'
import { Document, WebIO } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { rigSchema } from '../../scene/rig'
import { quad } from '../../mesh/quad'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../../testing/setup'
import { parseGlb } from './glb'
import { illuminanceAt, lightsOfGltf } from './gltf-lights'

type Kind = 'point' | 'spot' | 'directional'
/** A file of lights, each at a place, turned by a quaternion. */
async function file(
  ...lights: {
    kind: Kind
    intensity: number
    at: [number, number, number]
    turn?: [number, number, number, number]
    cone?: [number, number]
    range?: number
  }[]
): Promise<Document> {
  const d = new Document()
  const scene = d.createScene()
  const all = d.createExtension(KHRLightsPunctual)
  d.createBuffer()
  for (const l of lights) {
    const light = all.createLight(l.kind).setType(l.kind).setIntensity(l.intensity).setColor([1, 0.5, 0.25])
    if (l.cone) light.setInnerConeAngle(l.cone[0]).setOuterConeAngle(l.cone[1])
    if (l.range) light.setRange(l.range)
    scene.addChild(
      d
        .createNode(l.kind)
        .setTranslation(l.at)
        .setRotation(l.turn ?? [0, 0, 0, 1])
        .setExtension('KHR_lights_punctual', light),
    )
  }
  return parseGlb(await new WebIO().registerExtensions([KHRLightsPunctual]).writeBinary(d))
}
/** Looks −z before it is turned: down. */
const DOWN: [number, number, number, number] = [-Math.SQRT1_2, 0, 0, Math.SQRT1_2]
const floor = { parts: [quad('f', [-9, 0, 9, 9, 0, 9, 9, 0, -9, -9, 0, -9])] }
/** Radiance of a place on a floor of reflectance 0.5 under what a file holds. */
async function lit(document: Document, x: number): Promise<number[]> {
  const rig = rigSchema.parse({
    name: 'r',
    environment: { kind: 'uniform', radiance: [0, 0, 0] },
    panels: lightsOfGltf(document).panels,
  })
  const scene = sceneOf(
    floor,
    [materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5', specular_weight: 0 })), 's')],
    rig,
    { name: 'c', position: [x + 0.01, 0.5, 0], target: [x, 0, 0], fov: 2 },
    4,
    4,
  )
  return meanColour(sumOfPasses(scene, 4, 4, 0, 64), 64)
}

describe('lights of a glTF file (KHR_lights_punctual)', () => {
  it('a point lights a floor by intensity, cosine and the squared distance', async () => {
    const d = await file({ kind: 'point', intensity: 40, at: [0, 2, 0] })
    for (const x of [0, 1.5]) {
      const d2 = 4 + x * x
      const E = (40 * 2) / Math.sqrt(d2) / d2
      ;(await lit(d, x)).forEach((L, k) =>
        expect(Math.abs(L / ((0.5 * E * [1, 0.5, 0.25][k]!) / Math.PI) - 1)).toBeLessThan(0.01),
      )
    }
  })
  it('a spot is whole within its inner cone, falls between, and ends at its outer one', async () => {
    const d = await file({ kind: 'spot', intensity: 40, at: [0, 2, 0], turn: DOWN, cone: [0.3, 0.7] })
    for (const [angle, share] of [
      [0.2, 1],
      [0.5, ((Math.cos(0.5) - Math.cos(0.7)) / (Math.cos(0.3) - Math.cos(0.7))) ** 2],
      [0.75, 0],
    ] as const) {
      const E = ((40 * Math.cos(angle) ** 3) / 4) * share
      expect(Math.abs((await lit(d, 2 * Math.tan(angle)))[0]! - (0.5 * E) / Math.PI)).toBeLessThan(0.01 * E + 1e-4)
    }
  })
  it('a direction gives its illuminance wherever it falls; 60° to the side, half of it', async () => {
    const down = await file({ kind: 'directional', intensity: 30, at: [5, 1, 5], turn: DOWN })
    const a = -Math.PI / 12
    for (const x of [0, 3])
      expect(Math.abs((await lit(down, x))[0]! / ((0.5 * 30) / Math.PI) - 1)).toBeLessThan(0.01)
    // turned by 30° about x: 60° from the vertical
    const slanted = await file({
      kind: 'directional',
      intensity: 30,
      at: [0, 0, 0],
      turn: [Math.sin(a), 0, 0, Math.cos(a)],
    })
    expect(Math.abs((await lit(slanted, 0))[0]! / ((0.25 * 30) / Math.PI) - 1)).toBeLessThan(0.01)
  })
  it('says what has no equivalent, and what the lights give at a point', async () => {
    const d = await file(
      ...Array.from({ length: 18 }, () => ({
        kind: 'point' as const,
        intensity: 9,
        at: [0, 3, 0] as [number, number, number],
        range: 4,
      })),
    )
    const { panels, lost } = lightsOfGltf(d)
    expect(panels).toHaveLength(18)
    expect(new Set(panels.map(p => p.name)).size).toBe(18)
    expect(lost[0]).toContain('not only 4 m')
    expect(illuminanceAt(panels.slice(0, 1), [0, 0, 0])).toBeCloseTo(0.2126 + 0.7152 * 0.5 + 0.0722 * 0.25, 6)
  })
  it('keeps suns that a rig holds, says what it does not, and groups a light that stands in many places', async () => {
    const sun = { kind: 'directional' as const, intensity: 2, at: [0, 0, 0] as [number, number, number] }
    const d = await file(...Array.from({ length: 18 }, () => sun))
    expect(lightsOfGltf(d).panels).toHaveLength(16)
    expect(lightsOfGltf(d).lost.join()).toContain('2 lights beyond')
    const root = d.getRoot()
    const scene = root.listScenes()[0]!
    const bulb = new KHRLightsPunctual(d).createLight('Bulb').setType('point').setIntensity(3)
    for (let i = 0; i < 40; i++)
      scene.addChild(d.createNode(`n${i}`).setTranslation([i, 1, 0]).setExtension('KHR_lights_punctual', bulb))
    const { panels } = lightsOfGltf(d)
    expect(panels).toHaveLength(56)
    expect(panels.filter(p => p.group === 'Bulb')).toHaveLength(40)
    expect(panels.filter(p => p.group === undefined)).toHaveLength(16)
  })
})
