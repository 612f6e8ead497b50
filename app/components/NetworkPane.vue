<script setup lang="ts">
import { VueFlow, useVueFlow, type Connection, type NodeDragEvent } from '@vue-flow/core'
import { drive } from '../bench/drive'
import { lostBy } from '../../core/network/wire'
import { allNodes, outputOf } from '../../core/network/groups'
import { findElement } from '../../core/network/document'
import BackdropFrame from './BackdropFrame.vue'
import CanvasNote from './CanvasNote.vue'
import CanvasWires from './CanvasWires.vue'
import GroupFrame from './GroupFrame.vue'
import NetworkOverview from './NetworkOverview.vue'
import NodeCard from './NodeCard.vue'
import { applyChanges } from '../canvas/apply-changes'
import { arrange, cornersOf, wiresOf, type Placed, type CanvasWire } from '../canvas/arrange'
import { TAB_HAND, useTabHand } from '../canvas/card-tab'
import { nearestCard } from '../canvas/nearest-card'
import { putOn, sync } from '../canvas/sync'
import { useClipboard } from '../canvas/useClipboard'
import { useDrags } from '../canvas/useDrags'
import { useDistance } from '../canvas/useDistance'
import { useGroups } from '../canvas/useGroups'
import { useLooseWire } from '../canvas/useLooseWire'
import { useMoving } from '../canvas/useMoving'
import { useNotes } from '../canvas/useNotes'
import { usePicks } from '../canvas/usePicks'
import { usePlaces } from '../canvas/usePlaces'
import { useViews } from '../canvas/useViews'
import { tidy } from '../canvas/tidy'
import { useNodeMenu } from '../menus/useNodeMenu'

const emit = defineEmits<{ find: [] }>()
const bench = useBench()
const stage = useStage()
const say = useSay()
const flow = useVueFlow('network')
provide('flow', flow)
flow.onNodesChange(changes => applyChanges(flow, changes))
provide(TAB_HAND, useTabHand())
/** What stands on the canvas. */
const standing = shallowRef<readonly Placed[]>([])
const wires = shallowRef<readonly CanvasWire[]>([])
/** The material whose network stands, and what its wires were routed for. */
let shown: string | null = null
let routed = ''
const { picked, hasPicked, removeSelected, toggleSelected, pickedWire, wirePicks, pickWire } = usePicks(
  flow,
  wires,
)
const { open, toggleGroup, groupPicked, ungroupPicked, openPicked } = useGroups(
  picked,
  () => void nextTick(rebuild),
)

/** What the canvas was built of last: built again only of something else. */
let built: readonly unknown[] = []
function rebuild(): void {
  const d = bench.document
  const faults = bench.faults[bench.materialKey ?? '']
  const tapped = bench.tap?.material === bench.materialKey ? bench.tap?.node : undefined
  const of = [bench.materialKey, d, open.value, faults, tapped]
  if (of.every((x, i) => x === built[i]) && routed !== '') return
  built = of
  const placed = d ? arrange(d, open.value, faults ?? [], tapped) : []
  const before = standing.value
  standing.value = placed
  wires.value = d ? wiresOf(d, open.value) : []
  if (shown !== bench.materialKey || !before.length) putOn(flow, placed, bench.node)
  else sync(flow, before, placed, bench.node)
  shown = bench.materialKey
  const next = JSON.stringify([placed.map(p => [p.id, p.x, p.y, p.width, p.height]), wires.value.map(w => w.id)])
  if (next !== routed) route()
  routed = next
}
const { paths, route, began, dragged, moved } = useDrags(flow, () => ({
  placed: standing.value,
  wires: wires.value,
}))
/** Wires run to where cards were let go, not to where they stand, also if that is undone before all is built anew. */
function dropped(e: NodeDragEvent): void {
  routed = ''
  moved(e)
}
watch([() => bench.tap, () => bench.materialKey, () => bench.document?.children.length, open], rebuild, {
  immediate: true,
})
watch(
  () => bench.node,
  (now, before) => {
    for (const [name, on] of [
      [before, false],
      [now, true],
    ] as const) {
      const n = name != null ? flow.findNode(name) : undefined
      if (n) n.selected = on
    }
  },
)
// values change with every move of a drag: the cards follow a little behind
let later: ReturnType<typeof setTimeout> | undefined
watch([() => bench.document, () => bench.faults], () => {
  later ??= setTimeout(() => {
    later = undefined
    rebuild()
  }, 150)
})
/** How many fits of the canvas are still to come or under way. */
const fitting = ref(0)
/** Shows all of the network, once what was laid out anew has its sizes. @param delay ms */
async function fitSoon(delay: number, within: object = {}): Promise<void> {
  fitting.value++
  await new Promise(resolve => setTimeout(resolve, delay))
  await flow.fitView({ padding: 0.08, maxZoom: 1, ...within })
  fitting.value--
}
// a pick is of one material
watch(
  () => bench.materialKey,
  () => flow.removeSelectedElements(),
)
useViews(
  flow,
  () => bench.materialKey,
  () => void fitSoon(60, { minZoom: 0.72 }),
)
const { distance, names } = useDistance(flow, standing)
flow.onNodesInitialized(() => {
  if (!fitted) {
    fitted = true
    void fitSoon(0, { minZoom: 0.72 })
  }
})
let fitted = false

/** While the canvas is moved no pictures are made. */
const { moving, held, editing } = useMoving(flow)
/** Cards that can be seen, the selected and the tapped one first. */
provide(
  'card-pictures',
  useCardPictures(() => {
    if (moving.value) return []
    const v = flow.viewport.value
    const size = flow.dimensions.value
    const first = [bench.node, bench.tap?.node].filter(n => n != null)
    const corner = cornersOf(standing.value)
    const visible = standing.value
      .filter(p => {
        if (p.kind !== 'card') return false
        const c = corner(p)
        const x = c.x * v.zoom + v.x
        const y = c.y * v.zoom + v.y
        return x < size.width && x + p.width * v.zoom > 0 && y < size.height && y + p.height * v.zoom > 0
      })
      .map(p => p.id)
    return [...new Set([...first, ...visible])]
  }),
)

function wire(c: Connection): void {
  if (!c.targetHandle) return
  const d = bench.document
  const from = d && findElement(d, c.source)
  const output = from ? outputOf(from, c.sourceHandle) : undefined
  const lost = d && lostBy(d, c.source, c.target, c.targetHandle, output)
  const done = bench.edit(`Wire ${c.source} to ${c.targetHandle}`, x =>
    drive(x, c.source, c.target, c.targetHandle!, output, stage.atHand.extent),
  )
  if (done && lost) say.note('Part of it is lost in this wire', lost)
}
/** Further nodes are picked with Ctrl; the one picked first stays the one at hand. */
const clicked = (id: string, e: MouseEvent | TouchEvent) => {
  if (bench.node === null || !(e.ctrlKey || e.metaKey)) select(id)
}
function select(id: string): void {
  bench.node = id
  const l = bench.layers.find(x => x.node === id || x.surface === id)
  if (l) bench.layer = l.node
}
function clear(): void {
  bench.node = null
  wirePicks.value = new Set()
}
function tidyUp(): void {
  editing()
  if (bench.edit('Tidy the network', d => tidy(d, flow.dimensions.value))) void fitSoon(260)
}
const canvas = ref<HTMLElement>()
useClipboard(picked, canvas, editing)
/** Arrow keys walk the network along its wires and up and down its columns. */
function walk(e: KeyboardEvent): void {
  if (!bench.document || !e.key.startsWith('Arrow')) return
  e.preventDefault()
  e.stopPropagation()
  const all = flow.getNodes.value
  const from = all.find(n => n.id === bench.node) ?? all[0]
  if (!from) return
  const best = nearestCard(all, from, e.key)
  if (best) select(best.id)
  else if (bench.node === null) select(from.id)
}
const { middle, cellsAt, show } = usePlaces(flow)
const { note, framePicked } = useNotes(picked, middle)
provide(
  'held-wire',
  useLooseWire(flow, cellsAt, () => emit('find')),
)
defineExpose({
  middle,
  cellsAt,
  show,
  pickedWire,
  tidyUp,
  groupPicked,
  ungroupPicked,
  openPicked,
  note,
  framePicked,
  hasPicked,
  removeSelected,
  toggleSelected,
  fit: fitSoon,
})
const menuOf = useNodeMenu()
const cost = computed(() => {
  const d = bench.document
  return d ? `${allNodes(d).length} nodes` : ''
})
</script>

<template>
  <PaneMenu :of="menuOf">
    <section class="pane" aria-label="Network" :data-still="fitting === 0 && !moving">
      <div class="head">
        <b>Network</b>
        <span
          >{{ bench.materialKey }}<template v-if="bench.node"> ▸ {{ bench.node }}</template> · {{ cost }} · tabs:
          1–4 components, c colour, S surface, D displacement</span
        >
      </div>
      <div v-if="bench.refused" class="refused" role="alert">
        {{ bench.refused }}
        <UButton variant="ghost" aria-label="Close" @click="void (bench.refused = '')">×</UButton>
      </div>
      <div
        ref="canvas"
        class="canvas"
        :class="[distance, { moving }]"
        :style="names"
        data-testid="network"
        tabindex="0"
        @keydown="walk"
      >
        <VueFlow
          id="network"
          :apply-default="false"
          :min-zoom="0.05"
          :max-zoom="2"
          :delete-key-code="null"
          :nodes-focusable="false"
          :disable-keyboard-a11y="true"
          :elevate-nodes-on-select="false"
          :pan-on-drag="true"
          :zoom-on-double-click="false"
          @connect="wire"
          @node-drag-start="began"
          @node-drag="dragged"
          @node-drag-stop="dropped"
          @node-double-click="$event.node.data.group && toggleGroup($event.node.id)"
          @node-click="clicked($event.node.id, $event.event)"
          @pane-click="clear"
        >
          <template #node-card="p">
            <NodeCard :id="p.id" :data="p.data" :selected="p.selected" />
          </template>
          <template #node-frame="p">
            <GroupFrame :id="p.id" :data="p.data" :selected="p.selected" />
          </template>
          <template #node-note="p">
            <CanvasNote :id="p.id" :data="p.data" :selected="p.selected" />
          </template>
          <template #node-backdrop="p">
            <BackdropFrame :id="p.id" :data="p.data" :selected="p.selected" />
          </template>
          <template #zoom-pane>
            <CanvasWires :wires="wires" :paths="paths" :picked="wirePicks" @pick="pickWire" />
          </template>
          <NetworkOverview :standing="standing" />
        </VueFlow>
        <div v-if="held" class="hold" />
      </div>
    </section>
  </PaneMenu>
</template>

<style scoped>
.canvas {
  position: relative;
  flex: 1;
  min-height: 0;
  background: var(--sunk);
}
/* a layer of its own while it moves: the compositor shifts it, and no card is painted or laid out again */
.moving :deep(.vue-flow__transformationpane) {
  will-change: transform;
}
/* what is under the pointer is not looked for among all cards while a hand holds the canvas */
.hold {
  position: absolute;
  inset: 0;
  z-index: 10;
  cursor: grabbing;
}
/* the box that picks cards, while it is drawn */
.canvas :deep(.vue-flow__selection) {
  border: 1px dashed var(--ink);
}
/* the library lays a sheet over cards that a box picked: they stay under the hand */
.canvas :deep(.vue-flow__nodesselection) {
  display: none;
}
.refused {
  padding: 3px 9px;
  background: var(--raised);
  border-bottom: 1px solid var(--ink);
  display: flex;
  justify-content: space-between;
}
</style>
