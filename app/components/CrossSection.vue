<script setup lang="ts">
import type { ShallowRef } from 'vue'
import { setThickness, type Layer } from '../../core/network/layers'
import { follow } from '../input/follow'
import { ASSUMED, drawSection, drawnLayers, dropTarget, meanShare, placeLabels, SECTION } from '../section/section'
import { useSectionMasks } from '../section/useSectionMasks'
import { useSectionWidths } from '../section/useSectionWidths'
import { useInsertion } from '../section/useInsertion'
import { useLayerEdits } from '../section/useLayerEdits'
import { useLayerMenu } from '../menus/useLayerMenu'
import LayerLabel from './LayerLabel.vue'

const props = defineProps<{
  /** Rays along A–A, see `ViewPane.vue`. */ section: { rays: ShallowRef<Float64Array | null> }
}>()
const bench = useBench()
const pane = ref<HTMLElement>()
const columns = useSectionWidths(pane)

const layers = steady(() => (bench.document ? drawnLayers(bench.document, bench.layers) : []))
const masks = useSectionMasks(layers, () => props.section.rays.value)

/** Scale that stands while an interface is dragged, so that the drawing does not move under the hand. */
const held = ref<number>()
const drawing = computed(() => drawSection(layers.value, masks.value.of, columns.value.right, held.value))
const labels = computed(() => placeLabels(layers.value, drawing.value))
const stock = computed(() => layers.value.find(l => l.kind === 'stock'))
const height = computed(() => Math.max(drawing.value.bottom + 8, (labels.value.at(-1)?.at ?? 0) + 40))
const magnify = computed(() =>
  Math.max(
    1,
    Math.round(
      drawing.value.scale *
        (masks.value.width > 0 ? masks.value.width / (columns.value.right - SECTION.left) : 1 / 3780),
    ),
  ),
)
const percent = (x: number) => `${Math.round(x * 100)} %`
const detailOf = (l: (typeof labels.value)[number]) =>
  l.layer.kind === 'cut'
    ? `${l.layer.detail}, ${percent(meanShare(l.layer, masks.value.of, 0))} here`
    : [l.layer.detail, l.kept < 0.995 ? `${percent(l.kept)} left here` : ''].filter(Boolean).join(' · ')
const checkOf = (l: Layer) => bench.checks.find(c => c.where === l.node || c.where === l.surface)?.message

const edits = useLayerEdits()
const { select, selectToo, layerOf, toggle, togglePicked, removePicked, double, move, keys } = edits
const sheet = ref<HTMLElement>()
const yOf = (e: PointerEvent) => e.clientY - sheet.value!.getBoundingClientRect().top
/** A label under way: where it would land. */
const moving = ref<{ node: string; over?: string; y: number } | null>(null)
function dragLabel(node: string, e: PointerEvent): void {
  if (layerOf(node)?.kind === 'stock' || e.button !== 0) return
  const from = yOf(e)
  follow(
    e,
    m => {
      const y = yOf(m)
      if (!moving.value && Math.abs(y - from) < 5) return
      const over = dropTarget(labels.value, y)
      moving.value = {
        node,
        y: (labels.value.find(l => l.layer.node === over)?.at ?? 0) - 1,
        ...(over !== undefined ? { over } : {}),
      }
    },
    () => {
      const m = moving.value
      moving.value = null
      if (m?.over !== undefined && m.over !== node) move(node, m.over)
    },
  )
}
function dragThickness(node: string, e: PointerEvent): void {
  const layer = layerOf(node)
  if (!layer) return
  select(node)
  const from = yOf(e)
  const start = layer.thickness ?? ASSUMED
  held.value = drawing.value.scale
  follow(
    e,
    m => {
      thicken(node, start + (from - yOf(m)) / held.value!)
    },
    () => {
      held.value = undefined
    },
  )
}
function thicken(node: string, metres: number): void {
  const l = layerOf(node)
  if (l)
    bench.edit(
      `Thickness of ${l.title}`,
      d => setThickness(d, l, +Math.min(0.01, Math.max(1e-6, metres)).toPrecision(3)),
      `${node}/thickness`,
    )
}
function thicknessKey(node: string, e: KeyboardEvent): void {
  const by = e.key === 'ArrowUp' ? 1.05 : e.key === 'ArrowDown' ? 1 / 1.05 : 0
  const l = layerOf(node)
  if (!by || !l) return
  e.preventDefault()
  e.stopPropagation()
  thicken(node, (l.thickness ?? ASSUMED) * by)
}

const { inserting, places, insert } = useInsertion(layers, drawing, select)
/** What can be laid on a layer. */
const insertionsOn = (over: string) => [
  { label: 'Clear coat', description: 'deposit', onSelect: () => insert('coat', over) },
  { label: 'Paint', description: 'deposit', onSelect: () => insert('deposit', over) },
  {
    label: 'Edge wear',
    description: 'cut to the stock',
    disabled: over === stock.value?.node,
    onSelect: () => insert('cut', over),
  },
]
const insertions = computed(() => insertionsOn(inserting.value?.over ?? ''))
const menuOf = useLayerMenu(edits, insertionsOn)
/** The sign that opened the menu has the focus again. */
function backToPlus(e: Event): void {
  e.preventDefault()
  plus?.focus()
}
let plus: SVGElement | undefined
const BESIDE = { align: 'start' as const, sideOffset: 0, onCloseAutoFocus: backToPlus }
function open(place: { over: string; y: number }, e: Event): void {
  plus = e.currentTarget as SVGElement
  inserting.value = place
}
const toggleAlone = (): void => void (bench.layerAlone = bench.layerAlone === null ? bench.layer : null)
const movable = computed(() => bench.selectedLayer !== null && bench.selectedLayer.kind !== 'stock')
defineExpose({
  toggleSelected: togglePicked,
  removeSelected: removePicked,
  doubleSelected: () => {
    if (bench.layer !== null) double(bench.layer)
  },
})
</script>

<template>
  <PaneMenu :of="menuOf">
    <section ref="pane" class="pane" aria-label="Cross-section" @keydown="keys">
      <div class="head">
        <b>Cross-section</b>
        <span
          >A–A<template v-if="masks.width"
            >, {{ +(masks.width * 1000).toPrecision(2) }} mm wide · depth × {{ magnify }}</template
          >
        </span>
      </div>
      <div class="scroll">
        <p v-if="!layers.length" class="small pad">This material has no layers that can be drawn.</p>
        <div
          v-else
          ref="sheet"
          class="sheet"
          :style="{ 'height': height + 'px', '--labels': columns.labels + 'px' }"
        >
          <SectionDrawing
            :drawing="drawing"
            :labels="labels"
            :places="places"
            :stock="stock"
            :right="columns.right"
            :height="height"
            :picked="bench.layer"
            @select="select"
            @drag="dragThickness"
            @step="thicknessKey"
            @insert="open"
          />
          <LayerLabel
            v-for="l in labels"
            :key="l.layer.node"
            :node="l.layer.node"
            :surface="l.layer.surface"
            :kind="l.layer.kind"
            :title="l.layer.title"
            :detail="detailOf(l)"
            :at="l.at"
            :selected="bench.pickedLayers.some(p => p.node === l.layer.node)"
            :off="l.layer.off"
            :alone="bench.layerAlone === l.layer.node"
            :check="checkOf(l.layer)"
            @select="(node, too) => (too ? selectToo(node) : select(node))"
            @toggle="toggle"
            @drag="dragLabel"
          />
          <div v-if="moving" class="landing" :style="{ top: moving.y + 'px' }" />
          <UDropdownMenu
            :open="inserting !== null"
            :items="insertions"
            :modal="false"
            :content="BESIDE"
            @update:open="on => on || (inserting = null)"
          >
            <!-- where the menu opens, and what names it -->
            <span class="anchor" aria-hidden="true" :style="{ top: (inserting?.y ?? 0) + 4 + 'px' }"
              >Insert a layer</span
            >
          </UDropdownMenu>
        </div>
      </div>
      <div class="foot">
        <UButton :disabled="!movable" title="Take the selected layer out (Delete)" @click="removePicked">
          Take out
        </UButton>
        <UButton
          :disabled="!movable || bench.selectedLayer?.kind === 'cut'"
          title="Lay a copy of the selected layer on top of it (D)"
          @click="double(bench.layer!)"
        >
          Double
        </UButton>
        <UButton :disabled="!movable" title="Switch the selected layer off or on (H)" @click="togglePicked">
          {{ bench.selectedLayer?.off ? 'On' : 'Off' }}
        </UButton>
        <UButton
          :class="{ on: bench.layerAlone !== null }"
          :disabled="!bench.selectedLayer"
          :aria-pressed="bench.layerAlone !== null"
          title="Show the selected layer alone (A)"
          @click="toggleAlone"
        >
          Alone
        </UButton>
        <span class="legend" role="group" aria-label="Legend of hatches">
          <svg
            v-for="h in ['metal', 'polymer', 'glass', 'powder']"
            :key="h"
            :width="h.length * 5 + 19"
            height="16"
          >
            <rect width="14" height="14" y="1" :fill="`url(#h-${h})`" class="edge" />
            <text x="17" y="12">{{ h }}</text>
          </svg>
        </span>
      </div>
    </section>
  </PaneMenu>
</template>

<style scoped>
.sheet {
  position: relative;
  min-width: 300px;
}
text {
  fill: var(--ink);
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
}
.legend rect.edge {
  fill: revert-layer;
}
.landing {
  position: absolute;
  left: calc(var(--labels) - 4px);
  right: 4px;
  height: 3px;
  background: var(--accent);
  pointer-events: none;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 3px;
  padding: 4px 7px;
  border-top: 1px solid var(--rule);
  flex: none;
}
.foot .b {
  padding: 1px 6px;
}
.legend {
  display: flex;
  gap: 3px;
  font-size: 11px;
}
.pad {
  padding: 4px 9px;
  margin: 0;
}
.anchor {
  position: absolute;
  left: 30px;
  width: 1px;
  height: 1px;
  overflow: hidden;
}
</style>
