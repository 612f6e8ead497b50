import type { drawnLayers } from './section'
import { sampleMasks } from './section-masks'

/** How long the section waits after a change before it asks the workers, ms. */
const REST = 160

/**
 * Masks along A–A: real values from the real network and model.
 * @param rays along the line
 */
export function useSectionMasks(
  layers: Readonly<Ref<ReturnType<typeof drawnLayers>>>,
  rays: () => Float64Array | null,
) {
  const bench = useBench()
  const stage = useStage()
  /** Masks along A–A by node that gives them: real values from the real network and model. */
  const masks = shallowRef<{ of: Map<string, Float64Array>; width: number }>({ of: new Map(), width: 0 })
  let asked = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  async function ask(): Promise<void> {
    const mine = ++asked
    const answer = rays()
      ? await sampleMasks(
          layers.value.flatMap(l => l.mask ?? []),
          rays()!,
        )
      : undefined
    if (answer && mine === asked) masks.value = answer
  }
  watch(
    [rays, () => bench.document, () => bench.part, () => stage.geometry, () => stage.loaded],
    () => {
      clearTimeout(timer)
      timer = setTimeout(() => void ask(), REST)
    },
    { immediate: true },
  )

  return masks
}
