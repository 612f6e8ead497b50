import { describe, expect, it } from 'vitest'
import type { ProjectState } from './api'
import { createLights } from '../core/light/create-lights'
import { PANEL } from '../core/light/slots'
import { rigSchema } from '../core/scene/rig'
import type { Camera } from '../core/scene/camera'
import { framesOf, type Sequence } from './sequence'

const rig = rigSchema.parse({
  name: 'Lights',
  environment: { kind: 'uniform', radiance: [0, 0, 0] },
  panels: [{ name: 'p', centre: [3, 2, 1], u: [-1, 0, 0], v: [0, 1, 0], radiance: [1, 1, 1] }],
  turn: 350,
})
const state = { materials: {}, scene: { rigs: [rig], lights: 'Lights' } } as unknown as ProjectState
const camera: Camera = { name: 'c', position: [0, 1, 4], target: [0, 0, 0], fov: 30 }
const one: Sequence = { frames: 4, turning: 'camera', degrees: 360, time: [0, 3] }
const azimuth = (x: number, z: number) => Math.atan2(x, z)

describe('a sequence of frames', () => {
  it('numbers its frames and leads time from the first to the last', () => {
    const all = framesOf({ ...one, frames: 12, time: [1, 12] }, 'Lantern', camera, state)
    expect(all.map(f => f.name)).toEqual(
      Array.from({ length: 12 }, (_, i) => `Lantern ${String(i + 1).padStart(2, '0')}`),
    )
    expect(all.map(f => f.state.scene.time)).toEqual(Array.from({ length: 12 }, (_, i) => i + 1))
    expect(framesOf({ ...one, frames: 1 }, 'Lantern', camera, state)).toMatchObject([{ name: 'Lantern', camera }])
  })
  it('turns the camera by equal steps, as far from the model as it was, and the lights with nothing', () => {
    framesOf({ ...one, time: [0, 3] }, 'a', camera, state).forEach((f, i) => {
      const [x, y, z] = f.camera.position
      expect(Math.hypot(x, y, z)).toBeCloseTo(Math.hypot(0, 1, 4), 9)
      expect(Math.cos(azimuth(x, z))).toBeCloseTo(Math.cos((i * Math.PI) / 2), 9)
      expect(f.state.scene.rigs[0]!.turn).toBe(350)
    })
  })
  it('turning the model keeps each lamp where the camera sees it', () => {
    const seen = framesOf({ ...one, turning: 'model' }, 'a', camera, state).map(f => {
      const p = createLights(f.state.scene.rigs[0]!, null).panels
      return Math.cos(azimuth(p[PANEL.x]!, p[PANEL.z]!) - azimuth(f.camera.position[0], f.camera.position[2]))
    })
    seen.forEach(x => expect(x).toBeCloseTo(seen[0]!, 9))
    expect(
      framesOf({ ...one, turning: 'lights' }, 'a', camera, state).map(f => f.state.scene.rigs[0]!.turn),
    ).toEqual([350, 80, 170, 260])
  })
})
