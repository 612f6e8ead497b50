/** What the page asks render workers besides pictures of the view: one question each, answered when it is found. */
import type { Program } from '../../core/network/compile'
import type { TextureMap } from '../../core/maps/map'
import { cameraFrame, type Camera } from '../../core/scene/camera'
import type { FromWorker, ProfileAnswer, ToWorker } from '../../workers/protocol'

export function createQuestions(workers: readonly Worker[]) {
  const answers = new Map<number, (rgb: Float32Array) => void>()
  const profiles = new Map<number, (a: ProfileAnswer) => void>()
  const edges = new Map<number, (answer: { lines: Uint8Array; triangles: number }) => void>()
  let nextAnswer = 0

  return {
    /** Hears an answer. */
    answered(m: FromWorker): void {
      if (m.kind === 'swatch') {
        answers.get(m.id)?.(m.rgb)
        answers.delete(m.id)
      } else if (m.kind === 'profile') {
        profiles.get(m.id)?.(m)
        profiles.delete(m.id)
      } else if (m.kind === 'edges') {
        edges.get(m.id)?.(m)
        edges.delete(m.id)
      }
    },
    /** Small picture of a program on a part: the mean of some passes. @param from first of the passes */
    swatch(
      program: Program,
      maps: (TextureMap | null)[],
      part: number,
      view: Camera,
      { size, passes, from = 0 }: { size: number; passes: number; from?: number },
    ): Promise<Float32Array> {
      const id = nextAnswer++
      return new Promise(resolve => {
        answers.set(id, resolve)
        workers[id % workers.length]!.postMessage({
          kind: 'swatch',
          request: { id, program, maps, part, camera: cameraFrame(view, 1, 1), size, from, passes },
        } satisfies ToWorker)
      })
    },
    /**
     * Edges of the triangles that a camera sees: a byte a pixel, 255 on an edge. Workers share the rows.
     * @param triangles of the geometry that is meant: it may be on its way to the workers yet
     * @returns null while it is
     */
    async edges(view: Camera, width: number, height: number, triangles: number): Promise<Uint8Array | null> {
      let known = true
      const lines = new Uint8Array(width * height)
      const camera = cameraFrame(view, width, height)
      const share = Math.ceil(height / workers.length)
      await Promise.all(
        workers.map(async (worker, w) => {
          const rows = [Math.min(height, w * share), Math.min(height, (w + 1) * share)] as const
          const id = nextAnswer++
          const drawn = new Promise<{ lines: Uint8Array; triangles: number }>(resolve => edges.set(id, resolve))
          worker.postMessage({ kind: 'edges', request: { id, camera, width, height, rows } } satisfies ToWorker)
          const answer = await drawn
          known &&= answer.triangles === triangles
          lines.set(answer.lines, rows[0] * width)
        }),
      )
      return known ? lines : null
    },
    /** Values of programs along a line of rays. */
    profile(
      programs: { program: Program; maps: (TextureMap | null)[] }[],
      rays: Float64Array,
      part: number,
    ): Promise<ProfileAnswer> {
      const id = nextAnswer++
      return new Promise(resolve => {
        profiles.set(id, resolve)
        workers[id % workers.length]!.postMessage({
          kind: 'profile',
          request: { id, programs, rays, part },
        } satisfies ToWorker)
      })
    },
  }
}
