<script setup lang="ts">
import type { Line } from '../view/useSectionLine'

defineProps<{ line: Line }>()
const emit = defineEmits<{
  grip: [what: 'start' | 'end' | 'line', e: PointerEvent]
  step: [what: 'start' | 'end', e: KeyboardEvent]
}>()
</script>

<template>
  <svg class="fill through" role="group" aria-label="Section line">
    <g class="line">
      <line v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }" class="halo" />
      <line v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }" stroke-dasharray="12 3 2 3" />
      <line
        v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }"
        class="grip"
        data-testid="section-line"
        @pointerdown.stop="emit('grip', 'line', $event)"
        @pointerup.stop
      />
      <g
        v-for="end in ['start', 'end'] as const"
        :key="end"
        :transform="end === 'start' ? `translate(${line.x0} ${line.y0})` : `translate(${line.x1} ${line.y1})`"
        class="end"
        role="slider"
        tabindex="0"
        :aria-label="end === 'start' ? 'First end of the section line' : 'Second end of the section line'"
        :aria-valuenow="Math.round(end === 'start' ? line.x0 : line.x1)"
        :data-testid="`section-${end}`"
        @pointerdown.stop="emit('grip', end, $event)"
        @pointerup.stop
        @keydown="emit('step', end, $event)"
      >
        <circle r="12" class="hit" />
        <rect x="-4" y="-4" width="8" height="8" />
        <text :x="end === 'start' ? -16 : 9" y="4">A</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.fill {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.through {
  pointer-events: none;
}
.grip {
  stroke: transparent !important;
  stroke-width: 11 !important;
  pointer-events: stroke;
  cursor: move;
}
.end {
  pointer-events: all;
  cursor: grab;
}
.hit {
  fill: transparent;
}
.end:focus-visible rect {
  stroke-width: 4;
}
.line line {
  stroke: #fff;
  stroke-width: 1.4;
}
.line .halo {
  stroke: var(--accent);
  stroke-width: 3;
}
.line rect {
  fill: #fff;
  stroke: var(--accent);
  stroke-width: 2;
}
.line text {
  fill: #fff;
  stroke: #333;
  stroke-width: 2px;
  paint-order: stroke;
  font-weight: 600;
  font-size: 13px;
}
</style>
