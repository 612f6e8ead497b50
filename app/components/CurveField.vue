<script setup lang="ts">
import { driverOf } from '../../core/network/groups'
import { inputOf } from '../../core/network/document'
import { memory, MOST_POINTS } from '../../core/nodes/memory'
import { curve } from '../../core/nodes/knots'
import { follow } from '../input/follow'
import { histogram } from '../pictures/histogram'
import { paced } from '../renderer/paced'

/**
 * A curve with its points over the histogram of what goes in: points are dragged, added by a click beside them,
 * taken out with Delete.
 */
const props = defineProps<{ node: string }>()
const bench = useBench()
const box = ref<SVGSVGElement>()
const WIDTH = 260
const HEIGHT = 150
const EDGE = 8
const { at, element, points, chosen, move, add, addAfter, remove, keys } = usePoints(() => props.node, 'Point')
const mode = computed(() =>
  ['constant', 'linear', 'smooth'].indexOf(
    (element.value && inputOf(element.value, 'interpolation')?.attributes.value) ?? 'linear',
  ),
)
const values = useValues(() => element.value && driverOf(bench.document!, props.node, 'in'))
const span = computed(() => {
  const x = points.value.map(p => p.position)
  const y = points.value.map(p => p.value[0]!)
  return { x0: Math.min(0, ...x), x1: Math.max(1, ...x), y0: Math.min(0, ...y), y1: Math.max(1, ...y) }
})
const px = (x: number) => EDGE + ((x - span.value.x0) / (span.value.x1 - span.value.x0)) * (WIDTH - 2 * EDGE)
const py = (y: number) =>
  HEIGHT - EDGE - ((y - span.value.y0) / (span.value.y1 - span.value.y0)) * (HEIGHT - 2 * EDGE)
const bars = computed(() => histogram(values.value, span.value.x0, span.value.x1, 64))
const line = computed(() => {
  points.value.forEach((p, k) => {
    memory.knots[k] = p.position
    memory.knots[MOST_POINTS + k] = p.value[0]!
  })
  return Array.from({ length: WIDTH + 1 }, (_, i) => {
    const x = span.value.x0 + ((span.value.x1 - span.value.x0) * i) / WIDTH
    return `${px(x).toFixed(1)},${py(curve(x, points.value.length, mode.value)).toFixed(1)}`
  }).join(' ')
})
const drag = paced((k: number, x: number, y: number) => move(k, x, [+y.toFixed(4)]))
/** Place of the pointer, in the curve's own numbers; what is spanned stands still while a point is dragged. */
function placeOf(e: MouseEvent, s = span.value): [number, number] {
  const b = box.value!.getBoundingClientRect()
  const u = (((e.clientX - b.left) / b.width) * WIDTH - EDGE) / (WIDTH - 2 * EDGE)
  const v = (((e.clientY - b.top) / b.height) * HEIGHT - EDGE) / (HEIGHT - 2 * EDGE)
  const unit = (t: number) => Math.min(1, Math.max(0, t))
  return [s.x0 + (s.x1 - s.x0) * unit(u), s.y1 - (s.y1 - s.y0) * unit(v)]
}
function down(k: number, e: PointerEvent): void {
  at.value = k
  const s = span.value
  follow(e, m => {
    const [x, y] = placeOf(m, s)
    drag(k, x, y)
  })
}
function addAt(e: MouseEvent): void {
  const [x, y] = placeOf(e)
  add(x, [+y.toFixed(4)])
}
</script>

<template>
  <div class="curve">
    <svg
      ref="box"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="group"
      aria-label="Curve"
      data-testid="curve"
      @click.self="addAt"
    >
      <rect
        v-for="(h, i) in bars"
        :key="i"
        class="bin"
        :x="EDGE + (i * (WIDTH - 2 * EDGE)) / 64"
        :y="HEIGHT - EDGE - h * (HEIGHT - 2 * EDGE)"
        :width="(WIDTH - 2 * EDGE) / 64"
        :height="h * (HEIGHT - 2 * EDGE)"
      />
      <g class="grid">
        <line
          v-for="t in [0, 0.25, 0.5, 0.75, 1]"
          :key="t"
          :x1="px(t)"
          :x2="px(t)"
          :y1="EDGE"
          :y2="HEIGHT - EDGE"
        />
        <line v-for="t in [0, 0.5, 1]" :key="t" :x1="EDGE" :x2="WIDTH - EDGE" :y1="py(t)" :y2="py(t)" />
      </g>
      <polyline :points="line" />
      <g
        v-for="(p, k) in points"
        :key="k"
        class="point"
        :class="{ at: k === at }"
        tabindex="0"
        role="slider"
        :aria-label="`Point ${k + 1}`"
        :aria-valuenow="+p.value[0]!.toFixed(3)"
        :aria-valuetext="`${p.position.toFixed(3)} gives ${p.value[0]!.toFixed(3)}`"
        :transform="`translate(${px(p.position)} ${py(p.value[0]!)})`"
        @pointerdown.stop="down(k, $event)"
        @focus="at = k"
        @keydown="keys"
      >
        <circle r="11" class="hit" />
        <rect x="-4" y="-4" width="8" height="8" />
      </g>
    </svg>
    <div v-if="chosen" class="row">
      <span>Point {{ at + 1 }} of {{ points.length }}</span>
      <NumberField
        :label="`In of point ${at + 1}`"
        :value="chosen.position"
        :slider="false"
        @change="move(at, $event)"
      />
      <NumberField
        :label="`Out of point ${at + 1}`"
        :value="chosen.value[0]!"
        :slider="false"
        @change="move(at, chosen!.position, [$event])"
      />
      <span class="ends">
        <button class="b" title="A point after this one" @click="addAfter">Add</button>
        <button class="b" :disabled="points.length < 2" @click="remove">Take out</button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.curve {
  padding: 6px 9px;
}
svg {
  width: 100%;
  background: var(--sunk);
  border: 1px solid var(--ink);
  display: block;
  cursor: copy;
  touch-action: none;
}
.bin {
  fill: var(--raised);
  pointer-events: none;
}
.grid {
  pointer-events: none;
}
.grid line {
  stroke: var(--rule);
  stroke-width: 0.5;
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  pointer-events: none;
}
.point rect {
  fill: var(--paper);
  stroke: var(--ink);
}
.point.at rect {
  fill: var(--accent);
  stroke: var(--light);
}
.point {
  cursor: grab;
  outline: none;
}
.point:focus-visible rect {
  stroke-width: 3;
}
.hit {
  fill: transparent;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 7px;
  padding-top: 5px;
}
.row :deep(.num) {
  width: 62px;
}
.ends {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
</style>
