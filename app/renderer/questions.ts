/** What the page asks render workers besides pictures of the view: one question each, answered when it is found. */
import type { Program } from '../../core/network/compile'
import type { TextureMap } from '../../core/maps/map'
import { cameraFrame, type Camera } from '../../core/scene/camera'
import type { FromWorker, ProfileAnswer, ToWorker } from '../../workers/protocol'

/** Questions and answers that carry an id. */
type Question = Extract<ToWorker, { request: { id: number } }>
type AnswerOf<K extends Question['kind']> = Extract<FromWorker, { kind: K }>

export function createQuestions(workers: readonly Worker[]) {
  const waiting = new Map<number, (answer: never) => void>()
  let next = 0
  const nextWorker = (): Worker => workers[next % workers.length]!

  /** Asks a worker. @param question with an id */
  function ask<K extends Question['kind']>(
    worker: Worker,
    question: (id: number) => Extract<Question, { kind: K }>,
  ): Promise<AnswerOf<K>> {
    const id = next++
    return new Promise(resolve => {
      waiting.set(id, resolve)
      worker.postMessage(question(id))
    })
  }

  return {
    /** Hears an answer. */
    answered(m: FromWorker): void {
      if (!('id' in m)) return
      waiting.get(m.id)?.(m as never)
      waiting.delete(m.id)
    },
    /** Small picture of a program on a part: the mean of some passes. @param from first of the passes */
    async swatch(
      program: Program,
      maps: (TextureMap | null)[],
      part: number,
      view: Camera,
      { size, passes, from = 0 }: { size: number; passes: number; from?: number },
    ): Promise<Float32Array> {
      const camera = cameraFrame(view, 1, 1)
      const { rgb } = await ask<'swatch'>(nextWorker(), id => ({
        kind: 'swatch',
        request: { id, program, maps, part, camera, size, from, passes },
      }))
      return rgb
    },
    /**
     * Edges of the triangles that a camera sees: a byte a pixel, 255 on an edge. Workers share the rows.
     * @param triangles of the geometry that is meant: it may be on its way to the workers yet
     * @returns null while it is
     */
    async edges(view: Camera, width: number, height: number, triangles: number): Promise<Uint8Array | null> {
      const lines = new Uint8Array(width * height)
      const camera = cameraFrame(view, width, height)
      const share = Math.ceil(height / workers.length)
      const answers = await Promise.all(
        workers.map((worker, w) => {
          const rows = [Math.min(height, w * share), Math.min(height, (w + 1) * share)] as const
          return ask<'edges'>(worker, id => ({
            kind: 'edges',
            request: { id, camera, width, height, rows, triangles },
          }))
        }),
      )
      for (const [w, answer] of answers.entries()) {
        if (!answer.lines) return null
        lines.set(answer.lines, Math.min(height, w * share) * width)
      }
      return lines
    },
    /** Values of programs along a line of rays. */
    profile(
      programs: { program: Program; maps: (TextureMap | null)[] }[],
      rays: Float64Array,
      part: number,
    ): Promise<ProfileAnswer> {
      return ask<'profile'>(nextWorker(), id => ({ kind: 'profile', request: { id, programs, rays, part } }))
    },
  }
}
