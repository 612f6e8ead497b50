import { insertCoat, insertCut, insertDeposit } from '../../core/network/layers'
import { suitedLength } from '../words/suited'
import type { drawnLayers, drawSection } from './section'

/**
 * Laying new layers into the section: the places where that can be done, and doing it.
 * @param select picks a layer
 */
export function useInsertion(
  layers: Readonly<Ref<ReturnType<typeof drawnLayers>>>,
  drawing: Readonly<Ref<ReturnType<typeof drawSection>>>,
  select: (node: string) => void,
) {
  const bench = useBench()
  const stage = useStage()
  const stock = computed(() => layers.value.find(l => l.kind === 'stock'))
  /** Spine node above which an insertion is being chosen. */
  const inserting = ref<{ over: string; y: number } | null>(null)
  const places = computed(() => {
    const tops = drawing.value.bands.map(b => ({ over: b.layer.node, y: b.top, depth: b.to }))
    if (stock.value) tops.unshift({ over: stock.value.node, y: drawing.value.ground, depth: 0 })
    // above a cut: what is deposited later covers the cut too
    const last = layers.value.at(-1)
    if (last && last.kind === 'cut' && tops.length) tops[tops.length - 1]!.over = last.node
    return tops
  })
  /** @param over spine node of the layer that it is laid on */
  function insert(what: 'coat' | 'deposit' | 'cut', over: string): void {
    inserting.value = null
    let name = ''
    const bare = stock.value?.node ?? over
    if (
      bench.edit(
        what === 'coat' ? 'Insert a clear coat' : what === 'deposit' ? 'Insert a deposit' : 'Insert a cut',
        d => {
          const r =
            what === 'coat'
              ? insertCoat(d, over)
              : what === 'deposit'
                ? insertDeposit(d, over)
                : insertCut(d, over, bare, undefined, suitedLength('radius', stage.atHand.extent))
          name = r.name
          return r.document
        },
      )
    )
      select(name)
  }

  return { inserting, places, insert }
}
