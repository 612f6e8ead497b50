<script setup lang="ts">
import { VueFlow, useVueFlow, type Connection, type NodeDragEvent } from '@vue-flow/core'
import { clearInput, connect, removeNode, setAttribute } from '../../core/network/edit'
import { copyNodes, pasteNodes } from '../../core/formats/pieces'
import { insertOnWire } from '../../core/network/splice'
import { childNamed, isNode, nameOf, type Element } from '../../core/network/document'
import NodeCard from './NodeCard.vue'
import WireEdge from './WireEdge.vue'
import { dolly } from '../renderer/orbit'
import { cardOf, CELL, layout, wiresOf } from '../renderer/cards'
import { fieldOf } from '../renderer/field'
import { fingerprint } from '../renderer/fingerprint'
import { tidy } from '../renderer/tidy'

/** Pictures of the cards by node: each card follows its own. */
const pictures = shallowReactive(new Map<string, Float32Array>())
provide('card-pictures', pictures)
const bench = useBench(), stage = useStage()
const flow = useVueFlow('network')
const nodes = shallowRef<object[]>([]), edges = shallowRef<object[]>([])
/** What each card was made from: only those made from something else now are drawn again. */
let made = new Map<string, { element: Element, state: string }>(), structure = ''

const isTapped = (name: string) => bench.tap?.material === bench.materialKey && bench.tap.node === name
function rebuild(): void {
  const d = bench.document
  if (!d) { nodes.value = []; edges.value = []; structure = ''; return }
  const all = d.children.filter(isNode), faults = bench.faults[bench.materialKey ?? ''] ?? [], place = layout(d), wires = wiresOf(d)
  const stateOf = (name: string) => `${isTapped(name)} ${faults.filter(f => f.where === name).map(f => f.message).join()}`
  const next = bench.materialKey + JSON.stringify([[...place], wires.map(w => w.id)])
  const fresh = new Map(all.map(e => [nameOf(e), { element: e, state: stateOf(nameOf(e)) }]))
  if (next === structure) {
    for (const [name, f] of fresh) {
      const was = made.get(name)
      if (was?.element !== f.element || was.state !== f.state) flow.updateNodeData(name, markRaw(cardOf(f.element, faults, isTapped(name))), { replace: true })
    }
  }
  else {
    structure = next
    nodes.value = all.map(e => ({ id: nameOf(e), type: 'card', position: place.get(nameOf(e)) ?? { x: 0, y: 0 }, selected: nameOf(e) === bench.node, data: markRaw(cardOf(e, faults, isTapped(nameOf(e)))) }))
    edges.value = wires
  }
  made = fresh
}
watch([() => bench.tap, () => bench.materialKey, () => bench.document?.children.length], rebuild, { immediate: true })
watch(() => bench.node, (now, before) => {
  for (const [name, on] of [[before, false], [now, true]] as const) { const n = name != null ? flow.findNode(name) : undefined; if (n) n.selected = on }
})
// values change with every move of a drag: the cards follow a little behind
let later: ReturnType<typeof setTimeout> | undefined
watch([() => bench.document, () => bench.faults], () => { later ??= setTimeout(() => { later = undefined; rebuild() }, 150) })
watch(() => bench.materialKey, () => { pictures.clear(); drawnOf.clear(); nextTick(() => setTimeout(() => void flow.fitView({ padding: 0.08, maxZoom: 1, minZoom: 0.72 }), 60)) })
flow.onNodesInitialized(() => { if (!fitted) { fitted = true; void flow.fitView({ padding: 0.08, maxZoom: 1, minZoom: 0.72 }) } })
let fitted = false

/** Pictures are made one at a time, this far apart, ms: together they take a few hundredths of the view's time. */
const APART = 350
/** Nearer than a view that shows all of the part: cards are small. */
const CLOSE = 0.6
/** Documents that pictures were made of: a node is drawn again when it, or what feeds it, changed. */
const drawnOf = new Map<string, string>()
/** Cards that can be seen, the selected and the tapped one first. */
function wanted(d: Element): string[] {
  const v = flow.viewport.value, size = flow.dimensions.value, first = [bench.node, bench.tap?.node].filter(n => n != null)
  const visible = flow.getNodes.value.filter(n => n.position.x * v.zoom + v.x < size.width && (n.position.x + 148) * v.zoom + v.x > 0 && n.position.y * v.zoom + v.y < size.height && (n.position.y + 70) * v.zoom + v.y > 0).map(n => n.id)
  return [...new Set([...first, ...visible])].filter(n => { const e = childNamed(d, n); return e !== undefined && e.tag !== 'surfacematerial' })
}
let drawing = false, changedAt = 0
watch(() => bench.document, () => { changedAt = performance.now() })
/** Draws the next picture that is not current: what a node gives, on the part as the camera frames it. */
async function drawNext(): Promise<void> {
  const d = bench.document, s = stage.session, part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1, framed = stage.cameraOn(bench.part), camera = framed && dolly(framed, CLOSE)
  if (drawing || !d || !s || part < 0 || !camera || stage.paused || performance.now() - changedAt < 300 || (stage.drawn?.passes ?? 0) < 1) return
  const view = JSON.stringify([bench.part, camera, stage.loaded]), name = wanted(d).find(n => drawnOf.get(n) !== view + fingerprint(d, n))
  if (name === undefined) return
  drawing = true
  try {
    const program = stage.program(d, undefined, name), rgb = await s.swatch(program, stage.textures(program), part, camera, 44)
    pictures.set(name, rgb)
    drawnOf.set(name, view + fingerprint(d, name))
  }
  finally { drawing = false }
}
const pace = setInterval(() => void drawNext(), APART)
onBeforeUnmount(() => clearInterval(pace))

function wire(c: Connection): void {
  if (!c.targetHandle) return
  const d = bench.document, several = d && childNamed(d, c.source)?.attributes.type === 'multioutput'
  bench.edit(`Wire ${c.source} to ${c.targetHandle}`, x => connect(x, c.source, c.target, c.targetHandle!, several ? c.sourceHandle ?? undefined : undefined))
}
/** The wire under the middle of a card that hangs free. */
function wireUnder(id: string, x: number, y: number): { target: string, input: string } | undefined {
  const d = bench.document
  if (!d || wiresOf(d).some(w => w.source === id || w.target === id)) return undefined
  const under = flow.getEdges.value.find((e) => {
    const dx = e.targetX - e.sourceX, dy = e.targetY - e.sourceY, t = Math.min(1, Math.max(0, ((x - e.sourceX) * dx + (y - e.sourceY) * dy) / (dx * dx + dy * dy || 1)))
    return Math.hypot(e.sourceX + t * dx - x, e.sourceY + t * dy - y) < 26
  })
  return under?.targetHandle ? { target: under.target, input: under.targetHandle } : undefined
}
function moved(e: NodeDragEvent): void {
  const one = e.nodes.length === 1 ? e.nodes[0]! : undefined, wire = one && wireUnder(one.id, one.position.x + 74, one.position.y + 35)
  bench.edit('Move a card', d => e.nodes.reduce((x, n) => setAttribute(setAttribute(x, n.id, 'xpos', String(+(n.position.x / CELL.x).toFixed(3))), n.id, 'ypos', String(+(n.position.y / CELL.y).toFixed(3))), d))
  if (wire) bench.edit(`Put ${one.id} into a wire`, d => insertOnWire(d, one.id, wire.target, wire.input))
}
function select(id: string): void {
  bench.node = id
  const l = bench.layers.find(x => x.node === id || x.surface === id)
  if (l) bench.layer = l.node
}
function removeSelected(): void {
  const picked = flow.getSelectedEdges.value
  if (picked.length) {
    for (const e of picked) if (e.targetHandle) bench.edit('Cut a wire', d => clearInput(d, e.target, e.targetHandle!))
    return
  }
  const name = bench.node
  if (name !== null && bench.edit(`Remove ${name}`, d => removeNode(d, name))) bench.node = null
}
/** The picked wire, for what is added next. */
function pickedWire(): { target: string, input: string } | undefined {
  const e = flow.getSelectedEdges.value[0]
  return e?.targetHandle ? { target: e.target, input: e.targetHandle } : undefined
}
/** Copy and paste are the browser's own: the clipboard holds MaterialX text. */
function clip(e: ClipboardEvent): void {
  const d = bench.document
  if (!d || fieldOf(e) || String(getSelection())) return
  if (e.type === 'paste') {
    const text = e.clipboardData?.getData('text/plain') ?? ''
    if (!text.includes('<materialx')) return
    e.preventDefault()
    let names: string[] = []
    try { if (bench.edit('Paste', (x) => { const r = pasteNodes(x, text, 0.4, 0.6); names = r.names; return r.document })) bench.node = names.at(-1) ?? null }
    catch (x) { bench.refused = messageOf(x) }
    return
  }
  const names = [...new Set([...flow.getSelectedNodes.value.map(n => n.id), ...(bench.node !== null ? [bench.node] : [])])]
  if (!names.length) return
  e.preventDefault()
  e.clipboardData?.setData('text/plain', copyNodes(d, names))
  if (e.type === 'cut' && bench.edit(names.length === 1 ? `Cut ${names[0]}` : `Cut ${names.length} nodes`, x => names.reduce((y, n) => removeNode(y, n), x))) bench.node = null
}
for (const type of ['copy', 'cut', 'paste'] as const) { onMounted(() => document.addEventListener(type, clip)); onBeforeUnmount(() => document.removeEventListener(type, clip)) }
function tidyUp(): void {
  if (bench.edit('Tidy the network', tidy)) setTimeout(() => void flow.fitView({ padding: 0.08, maxZoom: 1 }), 260)
}
/** Arrow keys walk the network along its wires and up and down its columns. */
function walk(e: KeyboardEvent): void {
  const d = bench.document
  if (!d || !e.key.startsWith('Arrow')) return
  e.preventDefault()
  e.stopPropagation()
  const all = flow.getNodes.value, from = all.find(n => n.id === bench.node) ?? all[0]
  if (!from) return
  const horizontal = e.key === 'ArrowLeft' || e.key === 'ArrowRight', sign = e.key === 'ArrowLeft' || e.key === 'ArrowUp' ? -1 : 1
  const best = all.filter(n => n.id !== from.id && (horizontal ? (n.position.x - from.position.x) * sign > 20 : (n.position.y - from.position.y) * sign > 20))
    .sort((a, b) => score(a) - score(b))[0]
  function score(n: typeof from): number { const dx = Math.abs(n!.position.x - from!.position.x), dy = Math.abs(n!.position.y - from!.position.y); return horizontal ? dx + 2 * dy : dy + 2 * dx }
  if (best) select(best.id)
  else if (bench.node === null) select(from.id)
}
/** Where a new node goes: the middle of what is seen, in cells. */
function middle(): { x: number, y: number } {
  const v = flow.viewport.value, size = flow.dimensions.value
  return { x: +((size.width / 2 - v.x) / v.zoom / CELL.x).toFixed(2), y: +((size.height / 2 - v.y) / v.zoom / CELL.y).toFixed(2) }
}
defineExpose({ middle, pickedWire, tidyUp, removeSelected, fit: () => flow.fitView({ padding: 0.08, maxZoom: 1 }) })
const cost = computed(() => { const d = bench.document; return d ? `${d.children.filter(isNode).length} nodes` : '' })
</script>

<template>
  <section class="pane" aria-label="Network">
    <div class="head"><b>Network</b><span>{{ bench.materialKey }}<template v-if="bench.node"> ▸ {{ bench.node }}</template> · {{ cost }} · tabs: 1–4 components, c colour, S surface</span></div>
    <div v-if="bench.refused" class="refused" role="alert">{{ bench.refused }} <button class="q" aria-label="Close" @click="bench.refused = ''">×</button></div>
    <div class="canvas" data-testid="network" tabindex="0" @keydown="walk">
      <VueFlow
        id="network" :nodes="(nodes as never)" :edges="(edges as never)" :min-zoom="0.2" :max-zoom="2" :delete-key-code="null" :nodes-focusable="false" :edges-focusable="false" :disable-keyboard-a11y="true" :elevate-nodes-on-select="false" :pan-on-drag="true" :zoom-on-double-click="false"
        @connect="wire" @node-drag-stop="moved" @node-click="select($event.node.id)" @pane-click="bench.node = null">
        <template #node-card="p"><NodeCard v-bind="p" /></template>
        <template #edge-wire="p"><WireEdge v-bind="p" /></template>
      </VueFlow>
    </div>
  </section>
</template>

<style scoped>
.canvas { flex: 1; min-height: 0; background: var(--sunk); }
.refused { padding: 3px 9px; background: var(--raised); border-bottom: 1px solid var(--ink); display: flex; justify-content: space-between; }
</style>
