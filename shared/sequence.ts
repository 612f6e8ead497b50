import { z } from 'zod'
import type { Camera } from '../core/scene/camera'
import { orbit } from '../core/scene/orbit'
import type { ProjectState } from './api'

/** Most frames of a sequence. */
export const MOST_FRAMES = 720
const seconds = z.number('a number of seconds').min(-1e6).max(1e6)

/** A sequence of frames. */
export const sequenceSchema = z.object({
  frames: z
    .number('how many')
    .int('a whole number')
    .min(1, 'at least 1')
    .max(MOST_FRAMES, `at most ${MOST_FRAMES} frames`),
  /** What turns: the camera about the model, the lights, or the model before both (camera and lights together). */
  turning: z.enum(['nothing', 'camera', 'model', 'lights']),
  /** Degrees over the whole sequence; the last frame stops one step before, so that full turns repeat. */
  degrees: z.number('a number of degrees').min(-3600).max(3600),
  /** Seconds of the first and the last frame. */
  time: z.tuple([seconds, seconds]),
})
export type Sequence = z.output<typeof sequenceSchema>

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
