<script setup lang="ts">
import { inkOn } from '../pictures/tint'
import { breakLine, SECTION, type DrawnLayer, type placeLabels, type Section } from '../section/section'

/** The layers as they lie along A–A, cut through and hatched. */
defineProps<{
  drawing: Section
  labels: ReturnType<typeof placeLabels>
  /** Where a layer can be laid: above which, at what height and depth. */
  places: readonly { over: string; y: number; depth: number }[]
  stock: DrawnLayer | undefined
  /** Where the drawing ends, and its height, pixels. */
  right: number
  height: number
  picked: string | null
}>()
const emit = defineEmits<{
  select: [node: string]
  drag: [node: string, e: PointerEvent]
  step: [node: string, e: KeyboardEvent]
  insert: [place: { over: string; y: number }, e: Event]
}>()
const { left: LEFT, stock: STOCK, break: BREAK } = SECTION
const hatchOf = (l: DrawnLayer) => `url(#h-${l.hatch}-${inkOn(l.tint)})`
const micro = (m: number) => `${+(m * 1e6).toPrecision(3)}`
</script>

<template>
  <svg :width="right + 26" :height="height">
    <HatchPatterns />
    <rect :x="LEFT" y="8" :width="right - LEFT" :height="drawing.ground - 8" class="air" />
    <text :x="LEFT + 6" y="21" class="note">air</text>
    <g v-if="stock" :data-band="stock.node" @click="emit('select', stock.node)">
      <rect :x="LEFT" :y="drawing.ground" :width="right - LEFT" :height="STOCK" :fill="stock.tint" />
      <rect :x="LEFT + 26" :y="drawing.ground" :width="right - LEFT - 26" :height="STOCK" :fill="hatchOf(stock)" />
      <polygon class="break" :points="breakLine(right, drawing.ground + STOCK - BREAK)" />
      <rect
        :x="LEFT"
        :y="drawing.ground"
        :width="right - LEFT"
        :height="STOCK"
        class="edge"
        :class="{ at: stock.node === picked }"
      />
    </g>
    <g
      v-for="b in drawing.bands"
      :key="b.layer.node"
      :opacity="b.layer.off ? 0.25 : 1"
      :data-band="b.layer.node"
      @click="emit('select', b.layer.node)"
    >
      <path :d="b.path" :fill="b.layer.tint" />
      <path :d="b.path" :fill="hatchOf(b.layer)" />
      <rect v-if="b.kept > 0.3" :x="LEFT + 1" :y="b.middle - 5" width="22" height="10" :fill="b.layer.tint" />
      <path :d="b.path" class="edge" :class="{ at: b.layer.node === picked }" />
    </g>
    <line
      v-for="b in drawing.bands"
      :key="'i' + b.layer.node"
      :x1="LEFT"
      :x2="right"
      :y1="b.top"
      :y2="b.top"
      class="interface"
      role="slider"
      tabindex="0"
      :data-interface="b.layer.node"
      :aria-label="`Thickness of ${b.layer.title}`"
      :aria-valuenow="+micro(b.to - b.from)"
      :aria-valuetext="`${micro(b.to - b.from)} µm`"
      @pointerdown="emit('drag', b.layer.node, $event)"
      @keydown="emit('step', b.layer.node, $event)"
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
        @click="emit('insert', { over: p.over, y: p.y }, $event)"
        @keydown.enter.prevent="emit('insert', { over: p.over, y: p.y }, $event)"
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
        :points="`${right - 10},${l.y} ${right + 8},${l.y} ${right + 16},${l.at + 11} ${right + 24},${l.at + 11}`"
      />
    </template>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  overflow: visible;
}
text {
  fill: var(--ink);
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
}
.air {
  fill: var(--raised);
  stroke: var(--ink);
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
</style>
