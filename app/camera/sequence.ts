import type { ProjectState } from '../../shared/api'
import type { Camera } from '../../core/scene/camera'
import { orbit } from './orbit'

/**
 * What turns over a sequence of frames: the camera about the model, the lights, or the model before both, which is
 * camera and lights together.
 */
export type Turning = 'nothing' | 'camera' | 'lights' | 'model'
export interface Sequence {
  frames: number
  turning: Turning
  /** Degrees over the whole sequence; the last frame stops one step before, so that full turns repeat. */
  degrees: number
  /** Seconds of the first and the last frame. */ time: [number, number]
}

/**
 * Frames of a sequence, each with its number in the name, its camera and its state. One frame is the picture as it
 * stands, at the first time.
 */
export function framesOf(
  s: Sequence,
  name: string,
  camera: Camera,
  state: ProjectState,
): { name: string; camera: Camera; state: ProjectState }[] {
  const digits = String(s.frames).length
  return Array.from({ length: s.frames }, (_, i) => {
    const angle = (s.degrees * i) / s.frames
    const time = s.time[0] + (s.frames > 1 ? ((s.time[1] - s.time[0]) * i) / (s.frames - 1) : 0)
    return {
      name: s.frames === 1 ? name : `${name.slice(0, 110)} ${String(i + 1).padStart(digits, '0')}`,
      camera: s.turning === 'camera' || s.turning === 'model' ? orbit(camera, angle, 0) : camera,
      state: {
        ...state,
        scene: {
          ...state.scene,
          time,
          rigs:
            s.turning === 'lights' || s.turning === 'model'
              ? state.scene.rigs.map(r =>
                  r.name === state.scene.lights ? { ...r, turn: (r.turn + angle) % 360 } : r,
                )
              : state.scene.rigs,
        },
      },
    }
  })
}
