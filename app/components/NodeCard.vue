<script setup lang="ts">
import { Position, type useVueFlow } from '@vue-flow/core'
import { CardTab, useMeasuredTabs } from '../canvas/card-tab'
import { CARD, tabOf, type CardData, type Shown } from '../canvas/cards'
import { cutText } from '../canvas/cut-text'
import type { HeldWire } from '../canvas/useLooseWire'
import { lossIn } from '../../core/network/wire'
import { wireBetween } from '../../core/nodes/types'
import { pictureUrl } from '../pictures/picture-url'

const props = defineProps<Shown>()
const bench = useBench()
const toggle = inject<(name: string) => void>('toggle-group')!

/** Most rows that are added to a card. */
const MOST = 32
/** The wire in the hand: held over this card, all that it fits is shown. */
const wire = inject<Ref<HeldWire | null>>('held-wire')!
const opened = computed(() => wire.value?.over === props.id)
const inputs = computed((): CardData['inputs'] => {
  const held = wire.value
  if (!opened.value || !held) return props.data.inputs
  const fits = props.data.more.filter(i => wireBetween(held.type, i.type) !== 'impossible').slice(0, MOST)
  const all = [...props.data.inputs, ...fits.map(i => ({ ...i, wired: false, value: '' }))]
  const d = bench.document
  // what a wire would lose is said before it is let go
  return all.map(i => {
    const lost = d && lossIn(d, held.from, props.id, i.name, held.output)
    return lost ? { ...i, value: `loses ${lost.given - lost.taken} of ${lost.given}`, loses: true } : i
  })
})
const {
  updateNodeInternals,
  findNode,
  dimensions: pane,
  viewport,
  panBy,
} = inject<ReturnType<typeof useVueFlow>>('flow')!
const root = useTemplateRef('root')
/** What stays between an opened card and the edge of the pane, pixels. */
const EDGE = 8
/** How far the canvas has made room for this card, pixels. */
let madeRoom = 0
/** Moves the canvas up, or down again; a move by nothing is one too, and would keep cards from their pictures. */
function makeRoom(next: number): void {
  if (next !== madeRoom) panBy({ x: 0, y: madeRoom - next })
  madeRoom = next
}
/** A card that shows more lies over the others. */
const OVER = 1000
watch(opened, async on => {
  const node = findNode(props.id)
  if (node) node.zIndex = on ? OVER : undefined
  await nextTick()
  updateNodeInternals([props.id])
  // as far as there is some while the card is open: rows beyond the edge cannot be reached
  const { zoom, y } = viewport.value
  const top = (node?.position.y ?? 0) * zoom + y
  const over = top + (root.value?.offsetHeight ?? 0) * zoom + EDGE - pane.value.height
  makeRoom(on ? Math.max(0, Math.min(over, top - EDGE)) : 0)
})
useMeasuredTabs(props)
const enter = () => {
  if (wire.value && wire.value.over !== props.id) wire.value = { ...wire.value, over: props.id }
}

const named = inject<Ref<ReadonlySet<string>>>('far-names')!
const room = inject<Ref<number>>('name-room')!
const name = computed(() => cutText(props.data.title, room.value))
const { editing, begin, keep, close } = useRenaming('node', () => props.id)

const drawn = inject<Map<string, Float32Array>>('card-pictures')!
const shown = computed(() => {
  const rgb = drawn.get(props.id)
  return rgb && pictureUrl(rgb)
})
</script>

<template>
  <div
    ref="root"
    class="card"
    :class="{
      at: selected,
      tapped: data.tapped,
      off: data.off,
      faulty: data.faults.length > 0,
      opened,
      named: named.has(id),
    }"
    :aria-label="`${data.title}, ${data.kind}`"
    @pointerenter="enter"
    @dblclick="data.group || begin()"
  >
    <div class="left">
      <img v-if="shown" class="picture" :src="shown" alt="" draggable="false" />
      <div v-else class="picture" />
      <button
        v-if="data.group"
        class="kind open nodrag"
        :aria-label="`Open the group ${data.title}`"
        @click.stop="toggle(id)"
      >
        open
      </button>
      <div v-else class="kind" :title="data.kind">{{ data.kind }}</div>
    </div>
    <div class="body">
      <NameEditor v-if="editing" :text="data.title" label="Name of the card" @keep="keep" @close="close" />
      <div v-else class="title" :title="data.title" @dblclick.stop="begin">{{ name }}</div>
      <div
        v-for="i in inputs"
        :key="i.name"
        class="input"
        :class="{ wired: i.wired, loses: i.loses }"
        :title="`${i.name} (${i.type})`"
      >
        <span>{{ i.name }}</span>
        <span>{{ i.value }}</span>
      </div>
      <div v-if="data.faults.length" class="fault" :title="data.faults.join('\n')">{{ data.faults[0] }}</div>
    </div>
    <CardTab
      v-for="(i, k) in inputs"
      :key="i.name"
      :node="id"
      :name="i.name"
      type="target"
      :position="Position.Left"
      :style="{ top: CARD.input(k) + 'px', left: -CARD.tab + 'px' }"
      :title="`${i.name}: ${i.type}`"
      >{{ tabOf(i.type) }}</CardTab
    >
    <CardTab
      v-for="(o, k) in data.outputs"
      :key="o.name"
      :node="id"
      :name="o.name"
      type="source"
      :position="Position.Right"
      :style="{ top: CARD.output(k) + 'px', right: -CARD.tab + 'px' }"
      :title="data.group ? `${o.name}: gives ${o.type}` : `gives ${o.type}`"
      >{{ tabOf(o.type) }}</CardTab
    >
  </div>
</template>

<style scoped>
.card {
  width: 148px;
  min-height: 68px;
  border: 1px solid var(--ink);
  background: var(--paper);
  display: flex;
  font-size: 12px;
}
.card.at {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.card.tapped {
  background: var(--raised);
  border-width: 2px;
}
.card.off {
  opacity: 0.45;
}
.card.faulty .title {
  text-decoration: line-through;
}
.left {
  width: 46px;
  border-right: 1px solid var(--rule);
  flex: none;
}
.picture {
  width: 44px;
  height: 44px;
  display: block;
  border-bottom: 1px solid var(--rule);
  background: var(--sunk);
}
.kind {
  font-size: 11px;
  text-align: center;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 1px;
  color: var(--soft);
}
.open {
  width: 100%;
  text-decoration: underline;
  min-height: 20px;
}
.body {
  flex: 1;
  min-width: 0;
  padding: 2px 5px 3px;
}
.title {
  font-weight: 600;
  height: 24px;
  line-height: 22px;
  white-space: nowrap;
}
.input {
  display: flex;
  justify-content: space-between;
  gap: 4px;
  height: 19px;
  line-height: 19px;
  white-space: nowrap;
}
.input span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
}
.input.loses span:last-child {
  max-width: none;
  text-decoration: underline;
}
.input span:last-child {
  font-weight: 600;
  flex: none;
  max-width: 60px;
  overflow: hidden;
  text-overflow: ellipsis;
}
/* from afar a card is its picture, and its name over its foot as large as it can be read */
:is(.middling, .far) .card .input,
:is(.middling, .far) .card .kind,
:is(.middling, .far) .card .fault {
  visibility: hidden;
}
/* letters that nobody can read are a third of what it takes to draw 300 cards */
:is(.middling, .far) .card .vue-flow__handle {
  font-size: 0;
}
:is(.middling, .far) .card {
  position: relative;
}
:is(.middling, .far) .card .picture {
  position: absolute;
  left: 0;
  top: 0;
  width: 100%;
  height: 100%;
  object-fit: cover;
  border: 0;
}
:is(.middling, .far) .card .title {
  position: absolute;
  left: 0;
  top: 100%;
  z-index: 1;
  width: 208px;
  height: auto;
  /* wires run under it */
  pointer-events: none;
  font-size: var(--name);
  line-height: 1.2;
}
.far .card:not(.at, .named, :hover) .title {
  display: none;
}
.far .card .title {
  width: max-content;
  background: var(--sunk);
}
.fault {
  border-top: 1px solid var(--ink);
  font-size: 11px;
  max-height: 30px;
  overflow: hidden;
}
</style>
