import type { useVueFlow } from '@vue-flow/core'
import type { Placed } from './arrange'
import { farNames, LINE } from './far-names'

/**
 * Below this a card is its picture and its name; below the next, names are those of frames, layers and what is
 * picked.
 */
const MIDDLE = 0.4
const FAR = 0.15
/** Size of names on the screen, pixels, and the steps of zoom that it follows by. */
const NAME = 11
/** Room for a name on a card, and under one from afar, pixels of the canvas; size of names on cards. */
const ROOM = { near: 90, middling: 208 }
const NEAR_NAME = 12
const STEP = 1.12

/**
 * What cards show at the distance that the canvas is looked at from: a class, and how large a name is written.
 * @param standing what is on the canvas
 */
export function useDistance(flow: ReturnType<typeof useVueFlow>, standing: Readonly<Ref<readonly Placed[]>>) {
  const bench = useBench()
  const distance = computed(() => {
    const { zoom } = flow.viewport.value
    return zoom < FAR ? 'far' : zoom < MIDDLE ? 'middling' : 'near'
  })
  const step = computed(() => Math.round(Math.log(flow.viewport.value.zoom) / Math.log(STEP)))
  const names = computed(() =>
    distance.value === 'near' ? undefined : { '--name': `${(NAME / STEP ** step.value).toFixed(1)}px` },
  )
  /** What keeps its name from afar: frames, open groups, layers, what is picked. */
  const named = computed(() => {
    if (distance.value !== 'far') return new Set<string>()
    const layers = new Set(bench.layers.flatMap(l => [l.node, l.surface]))
    const rank = (p: Placed) => (p.id === bench.node ? 0 : p.kind === 'card' ? 2 : 1)
    const all = standing.value
      .filter(p => p.parent === undefined && p.kind !== 'note')
      .filter(p => p.kind !== 'card' || p.id === bench.node || layers.has(p.id))
      .sort((a, b) => rank(a) - rank(b))
    const scale = STEP ** step.value
    /** Where a name begins: at the foot of a card, in an open group, on a titled frame. */
    const up = (p: Placed) => p.y + (p.kind === 'card' ? p.height : p.kind === 'backdrop' ? -LINE / scale : 0)
    return farNames(
      all.map(p => ({ id: p.id, text: p.card.title, x: p.x, y: up(p) })),
      scale,
    )
  })
  provide('far-names', named)
  /** Room for a name of a card, in em. */
  const room = computed(() =>
    distance.value === 'near'
      ? ROOM.near / NEAR_NAME
      : distance.value === 'middling'
        ? (ROOM.middling * STEP ** step.value) / NAME
        : Infinity,
  )
  provide('name-room', room)
  return { distance, names }
}
