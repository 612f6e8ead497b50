<script setup lang="ts">
import { setValue } from '../../core/network/edit'
import { driverOf } from '../../core/network/groups'
import { findElement, inputOf } from '../../core/network/document'
import { formatValue, parseValue } from '../../core/nodes/types'
import { follow } from '../input/follow'
import { histogram } from '../pictures/histogram'
import { paced } from '../renderer/paced'

/**
 * Levels: the histogram of what goes into a range node, with its low end, its high end and the value that becomes
 * the middle, each dragged.
 */
const props = defineProps<{ node: string }>()
const bench = useBench()
const box = ref<SVGSVGElement>()
const WIDTH = 260
const HEIGHT = 84
const EDGE = 8
const FOOT = 14
const element = computed(() => (bench.document ? findElement(bench.document, props.node) : undefined))
const number = (name: string, fallback: number) =>
  computed(() => {
    const t = element.value && inputOf(element.value, name)?.attributes.value
    return (t !== undefined ? parseValue('float', t.split(',')[0]!)?.[0] : undefined) ?? fallback
  })
const low = number('inlow', 0)
const high = number('inhigh', 1)
const gamma = number('gamma', 1)
const values = useValues(() => element.value && driverOf(bench.document!, props.node, 'in'))
const span = computed(() => {
  let a = Math.min(0, low.value)
  let b = Math.max(1, high.value)
  for (const v of values.value) {
    if (v < a) a = v
    if (v > b) b = v
  }
  return { a, b }
})
const bars = computed(() => histogram(values.value, span.value.a, span.value.b, 64))
/** What becomes the middle of the output: t^(1/gamma) = 0.5. */
const middle = computed(() => low.value + (high.value - low.value) * 0.5 ** gamma.value)
const px = (x: number) => EDGE + ((x - span.value.a) / (span.value.b - span.value.a)) * (WIDTH - 2 * EDGE)
const HANDLES = computed(() => [
  { name: 'inlow', label: 'Low end', x: low.value, fill: 'black' },
  { name: 'gamma', label: 'Middle', x: middle.value, fill: 'grey' },
  { name: 'inhigh', label: 'High end', x: high.value, fill: 'white' },
])
function put(name: string, v: number): void {
  const type = element.value?.attributes.type
  const given = element.value && inputOf(element.value, name)?.attributes.type
  const wide = given ?? (type === 'float' || name === 'gamma' ? 'float' : type!)
  const count = parseValue(wide, new Array(wide === 'float' ? 1 : +wide.slice(-1)).fill('0').join())!.length
  bench.edit(
    `Levels of ${props.node}`,
    d => setValue(d, props.node, name, wide, formatValue(wide, new Array(count).fill(+v.toPrecision(4)))),
    `${bench.materialKey}/${props.node}/${name}`,
  )
}
function set(name: string, x: number): void {
  if (name === 'gamma') {
    const t = (x - low.value) / (high.value - low.value)
    put('gamma', Math.min(10, Math.max(0.1, Math.log(Math.min(0.999, Math.max(0.001, t))) / Math.log(0.5))))
  } else put(name, x)
}
const drag = paced(set)
function down(name: string, e: PointerEvent): void {
  const b = box.value!.getBoundingClientRect()
  const s = span.value
  follow(e, m =>
    drag(
      name,
      s.a +
        (s.b - s.a) *
          Math.min(1, Math.max(0, (((m.clientX - b.left) / b.width) * WIDTH - EDGE) / (WIDTH - 2 * EDGE))),
    ),
  )
}
function keys(name: string, x: number, e: KeyboardEvent): void {
  if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return
  e.preventDefault()
  e.stopPropagation()
  set(name, x + (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 0.05 : 0.005) * (span.value.b - span.value.a))
}
const wired = computed(() => element.value && driverOf(bench.document!, props.node, 'in') !== undefined)
</script>

<template>
  <div class="levels">
    <svg
      ref="box"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT + FOOT}`"
      role="group"
      aria-label="Levels"
      data-testid="levels"
    >
      <rect class="ground" :x="EDGE" y="2" :width="WIDTH - 2 * EDGE" :height="HEIGHT - 2" />
      <rect
        v-for="(h, i) in bars"
        :key="i"
        class="bin"
        :x="EDGE + (i * (WIDTH - 2 * EDGE)) / 64"
        :y="HEIGHT - h * (HEIGHT - 6)"
        :width="(WIDTH - 2 * EDGE) / 64"
        :height="h * (HEIGHT - 6)"
      />
      <g
        v-for="h in HANDLES"
        :key="h.name"
        class="handle"
        tabindex="0"
        role="slider"
        :aria-label="h.label"
        :aria-valuenow="+h.x.toFixed(3)"
        :transform="`translate(${px(h.x)} 0)`"
        @pointerdown.stop="down(h.name, $event)"
        @keydown="keys(h.name, h.x, $event)"
      >
        <line y1="2" :y2="HEIGHT" />
        <rect class="hit" x="-10" y="0" width="20" :height="HEIGHT + FOOT" />
        <path :d="`M0 ${HEIGHT} l6 12 h-12 z`" :style="{ fill: h.fill }" />
      </g>
    </svg>
    <p class="small">
      {{
        wired
          ? 'What goes in, over the part as the camera sees it'
          : 'Wire something into “In” to see its histogram'
      }}
    </p>
  </div>
</template>

<style scoped>
.levels {
  padding: 6px 9px 0;
}
svg {
  width: 100%;
  display: block;
  touch-action: none;
}
.ground {
  fill: var(--sunk);
  stroke: var(--ink);
}
.bin {
  fill: var(--soft);
}
.handle {
  cursor: ew-resize;
  outline: none;
}
.handle line {
  stroke: var(--ink);
  stroke-dasharray: 3 2;
}
.handle path {
  stroke: var(--ink);
}
.handle:focus-visible path {
  stroke: var(--accent);
  stroke-width: 3;
}
.hit {
  fill: transparent;
}
p {
  margin: 2px 0 0;
}
</style>
