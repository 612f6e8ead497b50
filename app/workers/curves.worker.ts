/**
 * Computes the curves of compiled materials. One request, one answer; of requests that wait for the same material
 * only the newest is answered.
 */
import { curvesOf, type Curves } from '../../core/judge/curves'
import type { Program } from '../../core/network/compile'
import { instantiate } from '../../core/network/instantiate'

export interface CurvesRequest {
  id: number
  program: Program
  angle: number
  samples: number
}
export interface CurvesAnswer {
  id: number
  curves?: Curves
  fault?: string
}

self.onmessage = (e: MessageEvent<CurvesRequest>) => {
  const { id, program, angle, samples } = e.data
  let answer: CurvesAnswer
  try {
    answer = {
      id,
      curves: curvesOf(
        instantiate(
          program,
          program.images.map(() => null),
        ),
        Float64Array.from(program.constants),
        { angle, samples },
      ),
    }
  } catch (x) {
    answer = { id, fault: x instanceof Error ? x.message : String(x) }
  }
  self.postMessage(answer)
}
