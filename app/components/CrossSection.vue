<script setup lang="ts">
import { setThickness, type Layer } from '../../core/network/layers'
import { follow } from '../input/follow'
import { drawSection, drawnLayers, dropTarget, meanShare, placeLabels, SECTION } from '../section/section'
import { useSectionMasks } from '../section/useSectionMasks'
import { useInsertion } from '../section/useInsertion'
import { useLayerEdits } from '../section/useLayerEdits'
import LayerLabel from './LayerLabel.vue'

const props = defineProps<{ rays: Float64Array | null }>()
const bench = useBench()
const { left: LEFT, right: RIGHT, stock: STOCK, break: BREAK } = SECTION

const layers = steady(() => (bench.document ? drawnLayers(bench.document, bench.layers) : []))
const masks = useSectionMasks(layers, () => props.rays)

/** Scale that stands while an interface is dragged, so that the drawing does not move under the hand. */
const held = ref<number>()
const drawing = computed(() => drawSection(layers.value, masks.value.of, held.value))
const labels = computed(() => placeLabels(layers.value, drawing.value))
const stock = computed(() => layers.value.find(l => l.kind === 'stock'))
const height = computed(() => Math.max(drawing.value.bottom + 8, (labels.value.at(-1)?.at ?? 0) + 40))
const magnify = computed(() =>
  Math.max(
    1,
    Math.round(drawing.value.scale * (masks.value.width > 0 ? masks.value.width / (RIGHT - LEFT) : 1 / 3780)),
  ),
)
const micro = (m: number) => `${+(m * 1e6).toPrecision(3)}`
const percent = (x: number) => `${Math.round(x * 100)} %`
const detailOf = (l: (typeof labels.value)[number]) =>
  l.layer.kind === 'cut'
    ? `${l.layer.detail}, ${percent(meanShare(l.layer, masks.value.of, 0))} here`
    : [l.layer.detail, l.kept < 0.995 ? `${percent(l.kept)} left here` : ''].filter(Boolean).join(' · ')
const checkOf = (l: Layer) => bench.checks.find(c => c.where === l.node || c.where === l.surface)?.message

const { select, layerOf, toggle, remove, double, move, keys } = useLayerEdits()
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
  const start = layer.thickness ?? 4e-5
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
  thicken(node, (l.thickness ?? 4e-5) * by)
}

const { inserting, places, insert } = useInsertion(layers, drawing, select)
const insertions = computed(() => [
  { label: 'Clear coat', description: 'deposit', onSelect: () => insert('coat') },
  { label: 'Paint', description: 'deposit', onSelect: () => insert('deposit') },
  {
    label: 'Edge wear',
    description: 'cut to the stock',
    disabled: inserting.value?.over === stock.value?.node,
    onSelect: () => insert('cut'),
  },
])
/** The sign that opened the menu has the focus again. */
function backToPlus(e: Event): void {
  e.preventDefault()
  plus?.focus()
}
let plus: SVGElement | undefined
function open(place: { over: string; y: number }, e: Event): void {
  plus = e.currentTarget as SVGElement
  inserting.value = place
}
const toggleAlone = (): void => void (bench.layerAlone = bench.layerAlone === null ? bench.layer : null)
const movable = computed(() => bench.selectedLayer !== null && bench.selectedLayer.kind !== 'stock')
defineExpose({
  toggleSelected: () => {
    if (bench.layer !== null) toggle(bench.layer)
  },
  doubleSelected: () => {
    if (bench.layer !== null) double(bench.layer)
  },
})
</script>

<template>
  <section class="pane" aria-label="Cross-section" @keydown="keys">
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
      <div v-else ref="sheet" class="sheet" :style="{ height: height + 'px' }">
        <svg :width="RIGHT + 26" :height="height">
          <HatchPatterns />
          <rect :x="LEFT" y="8" :width="RIGHT - LEFT" :height="drawing.ground - 8" class="air" />
          <text :x="LEFT + 6" y="21" class="note">air</text>
          <g v-if="stock" @click="select(stock.node)">
            <rect :x="LEFT" :y="drawing.ground" :width="RIGHT - LEFT" :height="STOCK" :fill="stock.tint" />
            <rect
              :x="LEFT + 26"
              :y="drawing.ground"
              :width="RIGHT - LEFT - 26"
              :height="STOCK"
              :fill="`url(#h-${stock.hatch})`"
            />
            <polygon
              class="break"
              :points="
                [0, 1, 2, 3, 4, 5, 6]
                  .map(
                    i => `${LEFT + ((RIGHT - LEFT) * i) / 6},${drawing.ground + STOCK - BREAK + (i % 2 ? -5 : 5)}`,
                  )
                  .concat(
                    [6, 5, 4, 3, 2, 1, 0].map(
                      i =>
                        `${LEFT + ((RIGHT - LEFT) * i) / 6},${drawing.ground + STOCK - BREAK + 9 + (i % 2 ? -5 : 5)}`,
                    ),
                  )
                  .join(' ')
              "
            />
            <rect
              :x="LEFT"
              :y="drawing.ground"
              :width="RIGHT - LEFT"
              :height="STOCK"
              class="edge"
              :class="{ at: stock.node === bench.layer }"
            />
          </g>
          <g
            v-for="b in drawing.bands"
            :key="b.layer.node"
            :opacity="b.layer.off ? 0.25 : 1"
            @click="select(b.layer.node)"
          >
            <path :d="b.path" :fill="b.layer.tint" />
            <path :d="b.path" :fill="`url(#h-${b.layer.hatch})`" />
            <rect
              v-if="b.kept > 0.3"
              :x="LEFT + 1"
              :y="b.middle - 5"
              width="22"
              height="10"
              :fill="b.layer.tint"
            />
            <path :d="b.path" class="edge" :class="{ at: b.layer.node === bench.layer }" />
          </g>
          <line
            v-for="b in drawing.bands"
            :key="'i' + b.layer.node"
            :x1="LEFT"
            :x2="RIGHT"
            :y1="b.top"
            :y2="b.top"
            class="interface"
            role="slider"
            tabindex="0"
            :data-interface="b.layer.node"
            :aria-label="`Thickness of ${b.layer.title}`"
            :aria-valuenow="+micro(b.to - b.from)"
            :aria-valuetext="`${micro(b.to - b.from)} µm`"
            @pointerdown="dragThickness(b.layer.node, $event)"
            @keydown="thicknessKey(b.layer.node, $event)"
          >
            <title>Drag to set the thickness of {{ b.layer.title }}</title>
          </line>
          <g v-for="p in places" :key="p.over + p.y" class="plus">
            <text :x="LEFT - 4" :y="p.y + 10" text-anchor="end" class="depth">
              {{ micro(p.depth) }}{{ p.depth === 0 ? ' µm' : '' }}
            </text>
            <g
              role="button"
              tabindex="0"
              :aria-label="`Insert above ${micro(p.depth)} µm`"
              :data-insert="p.over"
              @click="open({ over: p.over, y: p.y }, $event)"
              @keydown.enter.prevent="open({ over: p.over, y: p.y }, $event)"
            >
              <rect x="0" :y="p.y - 17" width="24" height="24" fill="transparent" />
              <circle cx="12" :cy="p.y - 5" r="7" />
              <path :d="`M8 ${p.y - 5} h8 M12 ${p.y - 9} v8`" />
            </g>
          </g>
          <template v-for="l in labels" :key="l.layer.node">
            <polyline
              v-if="l.layer.kind !== 'cut'"
              class="leader"
              :points="`${RIGHT - 10},${l.y} ${RIGHT + 8},${l.y} ${RIGHT + 16},${l.at + 11} ${RIGHT + 24},${l.at + 11}`"
            />
          </template>
        </svg>
        <LayerLabel
          v-for="l in labels"
          :key="l.layer.node"
          :node="l.layer.node"
          :kind="l.layer.kind"
          :title="l.layer.title"
          :detail="detailOf(l)"
          :at="l.at"
          :selected="l.layer.node === bench.layer"
          :off="l.layer.off"
          :alone="bench.layerAlone === l.layer.node"
          :check="checkOf(l.layer)"
          @select="select"
          @toggle="toggle"
          @drag="dragLabel"
        />
        <div v-if="moving" class="landing" :style="{ top: moving.y + 'px' }" />
        <UDropdownMenu
          :open="inserting !== null"
          :items="insertions"
          :modal="false"
          :content="{ align: 'start', sideOffset: 0, onCloseAutoFocus: backToPlus }"
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
      <UButton :disabled="!movable" title="Take the selected layer out (Delete)" @click="remove(bench.layer!)">
        Take out
      </UButton>
      <UButton
        :disabled="!movable || bench.selectedLayer?.kind === 'cut'"
        title="Lay a copy of the selected layer on top of it (D)"
        @click="double(bench.layer!)"
      >
        Double
      </UButton>
      <UButton :disabled="!movable" title="Switch the selected layer off or on (H)" @click="toggle(bench.layer!)">
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
        <svg v-for="h in ['metal', 'polymer', 'glass', 'powder']" :key="h" :width="h.length * 5 + 19" height="16">
          <rect width="14" height="14" y="1" :fill="`url(#h-${h})`" class="edge" />
          <text x="17" y="12">{{ h }}</text>
        </svg>
      </span>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  position: relative;
  min-width: 300px;
  max-width: 440px;
}
.sheet > svg {
  display: block;
  overflow: visible;
}
text {
  fill: var(--ink);
}
.air {
  fill: var(--raised);
  stroke: var(--ink);
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
}
.legend rect.edge {
  fill: revert-layer;
}
.edge.at {
  stroke: var(--accent);
  stroke-width: 2.4;
}
.break {
  fill: var(--raised);
  stroke: var(--ink);
}
.interface {
  stroke: transparent;
  stroke-width: 9;
  cursor: ns-resize;
  touch-action: none;
}
.interface:hover,
.interface:focus-visible {
  stroke: var(--accent);
  stroke-opacity: 0.35;
}
.note,
.depth {
  font-size: 12px;
}
.plus circle {
  fill: none;
  stroke: var(--ink);
}
.plus path {
  stroke: var(--ink);
}
.plus [role='button'] {
  cursor: pointer;
}
.plus [role='button']:hover circle {
  fill: var(--raised);
}
.leader {
  fill: none;
  stroke: var(--ink);
}
.landing {
  position: absolute;
  left: 190px;
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
