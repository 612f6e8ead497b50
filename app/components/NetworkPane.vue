<script setup lang="ts">
import { VueFlow, useVueFlow, type Connection, type NodeDragEvent } from '@vue-flow/core'
import { clearInput, removeNode, setAttribute } from '../../core/network/edit'
import { allNodes, connectAcross, groupNodes, isGroup, ungroup } from '../../core/network/groups'
import { insertOnWire } from '../../core/network/splice'
import { childNamed, findElement, type Element } from '../../core/network/document'
import GroupFrame from './GroupFrame.vue'
import NodeCard from './NodeCard.vue'
import WireEdge from './WireEdge.vue'
import { arrange, routable, wiresOf, type Placed, type WireEdgeModel } from '../canvas/arrange'
import { CELL } from '../canvas/cards'
import { nearestCard } from '../canvas/nearest-card'
import { useClipboard } from '../canvas/useClipboard'
import { distanceTo, routeWires, type Path } from '../canvas/route'
import { tidy } from '../canvas/tidy'

const bench = useBench()
const stage = useStage()
const flow = useVueFlow('network')
const nodes = shallowRef<object[]>([])
const edges = shallowRef<object[]>([])
/** Groups that are opened in place, by material. */
const opened = shallowReactive(new Map<string, ReadonlySet<string>>())
const open = computed(() => opened.get(bench.materialKey ?? '') ?? new Set<string>())
provide('toggle-group', toggleGroup)
function toggleGroup(name: string): void {
  const next = new Set(open.value)
  if (!next.delete(name)) next.add(name)
  opened.set(bench.materialKey ?? '', next)
  // what is inside a closed group is not at hand any more
  if (!next.has(name) && bench.node?.startsWith(name + '/')) bench.node = name
}
/** What stands on the canvas. */
let placed: Placed[] = []
let wires: WireEdgeModel[] = []
let structure = ''

function rebuild(): void {
  const d = bench.document
  if (!d) {
    nodes.value = []
    edges.value = []
    structure = ''
    placed = []
    return
  }
  const faults = bench.faults[bench.materialKey ?? ''] ?? []
  const before = new Map(placed.map(p => [p.id, p]))
  placed = arrange(d, open.value, faults, bench.tap?.material === bench.materialKey ? bench.tap?.node : undefined)
  wires = wiresOf(d, open.value)
  const next =
    bench.materialKey +
    JSON.stringify([placed.map(p => [p.id, p.kind, p.x, p.y, p.width, p.height]), wires.map(w => w.id)])
  if (next === structure) {
    // only cards that show something else now are drawn again
    for (const p of placed) {
      const was = before.get(p.id)
      if (
        was?.element !== p.element ||
        was.card.tapped !== p.card.tapped ||
        was.card.faults.join() !== p.card.faults.join()
      )
        flow.updateNodeData(p.id, markRaw(p.card), { replace: true })
    }
  } else {
    structure = next
    nodes.value = placed.map(p => ({
      id: p.id,
      type: p.kind,
      position: { x: p.x, y: p.y },
      selected: p.id === bench.node,
      data: markRaw(p.card),
      ...(p.parent !== undefined ? { parentNode: p.parent } : {}),
      ...(p.kind === 'frame' ? { style: { width: `${p.width}px`, height: `${p.height}px` }, zIndex: -1 } : {}),
    }))
    edges.value = wires
    route()
  }
}
/** Paths of the wires by id: each wire draws its own. */
const paths = shallowRef(new Map<string, Path>())
provide('wire-paths', paths)
function route(): void {
  const { wires: w, boxes } = routable(placed, wires, id => {
    const n = flow.findNode(id)
    return n?.dragging || (n?.parentNode && flow.findNode(n.parentNode)?.dragging)
      ? { x: n.computedPosition.x, y: n.computedPosition.y }
      : undefined
  })
  paths.value = routeWires(w, boxes)
}
let routing = 0
/** Wires follow a card that is dragged, once a frame. */
function dragged(): void {
  routing ||= requestAnimationFrame(() => {
    routing = 0
    route()
  })
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
watch(
  () => bench.materialKey,
  () => {
    void fitSoon(60, { minZoom: 0.72 })
  },
)
flow.onNodesInitialized(() => {
  if (!fitted) {
    fitted = true
    void fitSoon(0, { minZoom: 0.72 })
  }
})
let fitted = false

/** While the canvas is moved the render leaves it more of the machine, and no pictures are made. */
const moving = ref(false)
let still: ReturnType<typeof setTimeout> | undefined
// beginnings and ends of gestures are not to be had in order: that of turning the wheel is told when a drag has
// begun, that of fitting the view not at all
flow.onMove(() => {
  moving.value = true
  clearTimeout(still)
  still = setTimeout(() => {
    moving.value = false
  }, 200)
})
watch(moving, on => stage.session?.setPolite(on))
onBeforeUnmount(() => {
  clearTimeout(still)
  stage.session?.setPolite(false)
})
/** Cards that can be seen, the selected and the tapped one first. */
provide(
  'card-pictures',
  useCardPictures(() => {
    if (moving.value) return []
    const v = flow.viewport.value
    const size = flow.dimensions.value
    const first = [bench.node, bench.tap?.node].filter(n => n != null)
    const visible = flow.getNodes.value
      .filter(
        n =>
          n.type === 'card' &&
          n.computedPosition.x * v.zoom + v.x < size.width &&
          (n.computedPosition.x + 148) * v.zoom + v.x > 0 &&
          n.computedPosition.y * v.zoom + v.y < size.height &&
          (n.computedPosition.y + 70) * v.zoom + v.y > 0,
      )
      .map(n => n.id)
    return [...new Set([...first, ...visible])]
  }),
)

function wire(c: Connection): void {
  if (!c.targetHandle) return
  const d = bench.document
  const from = d && findElement(d, c.source)
  const output =
    from && (isGroup(from) || from.attributes.type === 'multioutput') ? (c.sourceHandle ?? undefined) : undefined
  bench.edit(`Wire ${c.source} to ${c.targetHandle}`, x =>
    connectAcross(x, c.source, c.target, c.targetHandle!, output),
  )
}
/** The wire under the middle of a card that hangs free. */
function wireUnder(id: string, x: number, y: number): { target: string; input: string } | undefined {
  const d = bench.document
  if (!d || wires.some(w => w.source === id || w.target === id)) return undefined
  const under = wires.find(w => !w.target.includes('/') && distanceTo(paths.value.get(w.id) ?? [], x, y) < 26)
  return under && { target: under.target, input: under.targetHandle }
}
/** Keeps where cards were dragged to. A document that says little about places is given those of all its cards. */
function moved(e: NodeDragEvent): void {
  const one = e.nodes.length === 1 ? e.nodes[0]! : undefined
  const onto = one && wireUnder(one.id, one.position.x + 74, one.position.y + 35)
  const place = (d: Element, id: string, x: number, y: number) =>
    setAttribute(
      setAttribute(d, id, 'xpos', String(+(x / CELL.x).toFixed(3))),
      id,
      'ypos',
      String(+(y / CELL.y).toFixed(3)),
    )
  bench.edit('Move a card', d =>
    e.nodes.reduce((x, n) => {
      const was = placed.find(p => p.id === n.id)
      const a = was && findElement(x, n.id)?.attributes
      return was && a
        ? place(
            x,
            n.id,
            Number(a.xpos) * CELL.x + n.position.x - was.x,
            Number(a.ypos) * CELL.y + n.position.y - was.y,
          )
        : x
    }, withPlaces(d)),
  )
  if (onto) bench.edit(`Put ${one.id} into a wire`, d => insertOnWire(d, one.id, onto.target, onto.input))
  else route()
}
/** The document with a place for every card. */
function withPlaces(d: Element): Element {
  return arrange(d, new Set()).reduce(
    (x, p) =>
      p.element.attributes.xpos !== undefined && p.element.attributes.ypos !== undefined
        ? x
        : setAttribute(
            setAttribute(x, p.id, 'xpos', String(+(p.x / CELL.x).toFixed(3))),
            p.id,
            'ypos',
            String(+(p.y / CELL.y).toFixed(3)),
          ),
    d,
  )
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
function removeSelected(): void {
  const picked = flow.getSelectedEdges.value
  if (picked.length) {
    for (const e of picked)
      if (e.targetHandle && !e.targetHandle.startsWith('out:'))
        bench.edit('Cut a wire', d => clearInput(d, e.target, e.targetHandle!))
    return
  }
  const name = bench.node
  if (name !== null && bench.edit(`Remove ${name}`, d => removeNode(d, name))) bench.node = null
}
/** The picked wire, for what is added next. */
function pickedWire(): { target: string; input: string } | undefined {
  const e = flow.getSelectedEdges.value[0]
  return e?.targetHandle ? { target: e.target, input: e.targetHandle } : undefined
}
function tidyUp(): void {
  if (bench.edit('Tidy the network', tidy)) void fitSoon(260)
}
const picked = () => [
  ...new Set([...flow.getSelectedNodes.value.map(n => n.id), ...(bench.node !== null ? [bench.node] : [])]),
]
useClipboard(picked)
/** Puts the picked nodes into a group, or takes the picked group apart. */
function groupPicked(): void {
  const names = picked()
  if (
    bench.edit('Group nodes', d => {
      const r = groupNodes(withPlaces(d), names)
      toggleGroup(r.name)
      bench.node = r.name
      return r.document
    })
  )
    void nextTick(rebuild)
}
function ungroupPicked(): void {
  const name = bench.node?.split('/')[0]
  if (
    name !== undefined &&
    bench.edit(`Take ${name} apart`, d => {
      const r = ungroup(d, name)
      bench.node = r.names[0] ?? null
      return r.document
    })
  )
    void nextTick(rebuild)
}
/** Opens the picked group in place, or closes the one that holds the picked node. */
function openPicked(): void {
  const name = bench.node?.split('/')[0]
  const e = name !== undefined && bench.document && childNamed(bench.document, name)
  if (e && isGroup(e)) toggleGroup(name!)
}
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
/** Where a new node goes: the middle of what is seen, in cells. */
function middle(): { x: number; y: number } {
  const v = flow.viewport.value
  const size = flow.dimensions.value
  return {
    x: +((size.width / 2 - v.x) / v.zoom / CELL.x).toFixed(2),
    y: +((size.height / 2 - v.y) / v.zoom / CELL.y).toFixed(2),
  }
}
defineExpose({
  middle,
  pickedWire,
  tidyUp,
  groupPicked,
  ungroupPicked,
  openPicked,
  removeSelected,
  fit: fitSoon,
})
const cost = computed(() => {
  const d = bench.document
  return d ? `${allNodes(d).length} nodes` : ''
})
</script>

<template>
  <section class="pane" aria-label="Network" :data-still="fitting === 0 && !moving">
    <div class="head">
      <b>Network</b>
      <span
        >{{ bench.materialKey }}<template v-if="bench.node"> ▸ {{ bench.node }}</template> · {{ cost }} · tabs: 1–4
        components, c colour, S surface, D displacement</span
      >
    </div>
    <div v-if="bench.refused" class="refused" role="alert">
      {{ bench.refused }}
      <UButton variant="ghost" aria-label="Close" @click="void (bench.refused = '')">×</UButton>
    </div>
    <div class="canvas" :class="{ moving: moving }" data-testid="network" tabindex="0" @keydown="walk">
      <VueFlow
        id="network"
        :nodes="nodes as never"
        :edges="edges as never"
        :min-zoom="0.2"
        :max-zoom="2"
        :delete-key-code="null"
        :nodes-focusable="false"
        :edges-focusable="false"
        :disable-keyboard-a11y="true"
        :elevate-nodes-on-select="false"
        :pan-on-drag="true"
        :zoom-on-double-click="false"
        @connect="wire"
        @node-drag="dragged"
        @node-drag-stop="moved"
        @node-double-click="$event.node.data.group && toggleGroup($event.node.id)"
        @node-click="clicked($event.node.id, $event.event)"
        @pane-click="bench.node = null"
      >
        <template #node-card="p">
          <NodeCard v-bind="p" />
        </template>
        <template #node-frame="p">
          <GroupFrame v-bind="p" />
        </template>
        <template #edge-wire="p">
          <WireEdge v-bind="p" />
        </template>
      </VueFlow>
    </div>
  </section>
</template>

<style scoped>
.canvas {
  flex: 1;
  min-height: 0;
  background: var(--sunk);
}
/* a layer of its own while it moves: the compositor shifts it, and no card is painted or laid out again */
.moving :deep(.vue-flow__transformationpane) {
  will-change: transform;
}
.refused {
  padding: 3px 9px;
  background: var(--raised);
  border-bottom: 1px solid var(--ink);
  display: flex;
  justify-content: space-between;
}
</style>
