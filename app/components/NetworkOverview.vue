<script setup lang="ts">
import type { useVueFlow } from '@vue-flow/core'
import type { Placed } from '../canvas/arrange'

/**
 * All of the network in a corner, with what is in sight: shown where that is not all, and the canvas has room. Cards
 * are drawn when they change; while the canvas moves only the frame about what is in sight does. The library's own
 * overview draws every card with every frame: 500 cards were panned at 43 frames a second with it.
 */
const props = defineProps<{ standing: readonly Placed[] }>()
/** Least size of the canvas, and that of the overview, pixels. */
const ROOM = { width: 560, height: 300 }
const SIZE = { width: 168, height: 112 }
/** Between the outermost cards and the overview's edge. */
const EDGE = 6
const bench = useBench()
const { viewport, dimensions, setViewport, zoomTo } = inject<ReturnType<typeof useVueFlow>>('flow')!
const outer = computed(() => props.standing.filter(p => p.parent === undefined))
/** Where the network lies, and how much smaller the overview is. */
const whole = computed(() => {
  const left = Math.min(...outer.value.map(p => p.x))
  const up = Math.min(...outer.value.map(p => p.y))
  const right = Math.max(...outer.value.map(p => p.x + p.width))
  const down = Math.max(...outer.value.map(p => p.y + p.height))
  const scale = Math.min((SIZE.width - 2 * EDGE) / (right - left), (SIZE.height - 2 * EDGE) / (down - up))
  return { left, up, right, down, scale }
})
const shown = computed(() => {
  const { width, height } = dimensions.value
  if (width < ROOM.width || height < ROOM.height || !outer.value.length) return false
  const { x, y, zoom } = viewport.value
  const { left, up, right, down } = whole.value
  return left * zoom + x < 0 || up * zoom + y < 0 || right * zoom + x > width || down * zoom + y > height
})
const sight = computed(() => {
  const { x, y, zoom } = viewport.value
  const { left, up, scale } = whole.value
  return {
    transform: `translate(${EDGE + (-x / zoom - left) * scale}px, ${EDGE + (-y / zoom - up) * scale}px)`,
    width: `${(dimensions.value.width / zoom) * scale}px`,
    height: `${(dimensions.value.height / zoom) * scale}px`,
  }
})
/** Boxes as one path: cards that are drawn one by one cost a frame. */
const boxes = (all: readonly Placed[]) =>
  all
    .map(p => {
      const { left, up, scale } = whole.value
      const at = `M ${(EDGE + (p.x - left) * scale).toFixed(1)} ${(EDGE + (p.y - up) * scale).toFixed(1)}`
      const width = Math.max(1, p.width * scale).toFixed(1)
      return `${at} h ${width} v ${Math.max(1, p.height * scale).toFixed(1)} h -${width} z`
    })
    .join(' ')
const isFrame = (p: Placed) => p.kind === 'frame' || p.kind === 'backdrop'
const cards = computed(() => boxes(outer.value.filter(p => !isFrame(p))))
const frames = computed(() => boxes(outer.value.filter(isFrame)))
const picked = computed(() => boxes(outer.value.filter(p => p.id === bench.node)))
/** Brings what lies under the pointer into the middle of the canvas. */
function look(e: PointerEvent): void {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const { left, up, scale } = whole.value
  const { zoom } = viewport.value
  const at = (px: number, from: number) => (px - EDGE) / scale + from
  void setViewport({
    x: dimensions.value.width / 2 - at(e.clientX - box.left, left) * zoom,
    y: dimensions.value.height / 2 - at(e.clientY - box.top, up) * zoom,
    zoom,
  })
}
/** The wheel zooms about the middle of the canvas, as far a turn as over the canvas itself. */
const zoom = (e: WheelEvent) => void zoomTo(viewport.value.zoom * 2 ** (-e.deltaY * 0.002))
function press(e: PointerEvent): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  look(e)
}
</script>

<template>
  <div
    v-if="shown"
    class="overview"
    role="img"
    aria-label="Overview of the network"
    title="Drag: looks there. Wheel: nearer or farther"
    :style="{ width: SIZE.width + 'px', height: SIZE.height + 'px' }"
    @pointerdown.stop="press"
    @pointermove="$event.buttons && look($event)"
    @wheel.prevent="zoom"
  >
    <svg v-memo="[cards, frames, picked]" aria-hidden="true">
      <path class="cards" :d="cards" />
      <path class="frames" :d="frames" />
      <path class="picked" :d="picked" />
    </svg>
    <div class="sight" :style="sight" />
  </div>
</template>

<style scoped>
.overview {
  position: absolute;
  right: 8px;
  bottom: 8px;
  z-index: 5;
  overflow: hidden;
  background: var(--paper);
  border: 1px solid var(--ink);
  cursor: crosshair;
  touch-action: none;
}
svg {
  display: block;
  width: 100%;
  height: 100%;
}
.cards {
  fill: var(--soft);
}
.frames {
  fill: none;
  stroke: var(--ink);
}
.picked {
  fill: var(--accent);
}
.sight {
  position: absolute;
  left: 0;
  top: 0;
  border: 2px solid var(--accent);
  will-change: transform;
}
</style>
