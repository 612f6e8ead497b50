import { useBench } from '../stores/bench'
import { useStage } from '../stores/stage'

/**
 * Values of mask nodes along the section's rays on the part that is picked, from the renderer's own workers.
 * @returns masks within 0..1 by node where rays hit the part, and the width between the first and the last hit,
 * metres
 */
export async function sampleMasks(
  masks: readonly string[],
  rays: Float64Array,
): Promise<{ of: Map<string, Float64Array>; width: number } | undefined> {
  const bench = useBench()
  const stage = useStage()
  const s = stage.session
  const d = bench.document
  const part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
  if (!s || !d || part < 0) return undefined
  const nodes = [...new Set(masks)]
  const answer = await s.profile(
    nodes.map(n => {
      const program = stage.program(d, undefined, n)
      return { program, maps: stage.maps(program) }
    }),
    rays,
    part,
  )
  const p = answer.positions
  const hits: number[] = []
  for (let i = 0; i < p.length; i += 3) if (Number.isFinite(p[i]!)) hits.push(i)
  const a = hits[0]
  const b = hits.at(-1)
  const width =
    a !== undefined && b !== undefined
      ? Math.hypot(p[a]! - p[b]!, p[a + 1]! - p[b + 1]!, p[a + 2]! - p[b + 2]!)
      : 0
  return {
    width,
    of: new Map(
      nodes.map((n, k) => [n, Float64Array.from(hits, i => Math.min(1, Math.max(0, answer.values[k]![i / 3]!)))]),
    ),
  }
}
