<script setup lang="ts">
import type { CanvasWire } from '../canvas/arrange'
import { pathText, type Path } from '../canvas/route'
import { marksText } from '../canvas/wire-marks'

/**
 * The wires of a network, of one weight with short slashes, one a component; surfaces are a ladder. They run where
 * they were routed, clear of every card. All are one drawing: as edges of the canvas' library each would be drawn
 * again with every change of any card.
 */
const props = defineProps<{
  wires: readonly CanvasWire[]
  paths: ReadonlyMap<string, Path>
  picked: ReadonlySet<string>
}>()
const emit = defineEmits<{ pick: [id: string, also: boolean] }>()
const routed = computed(() =>
  props.wires.flatMap(w => {
    const path = props.paths.get(w.id)
    return path ? [{ ...w, path }] : []
  }),
)
</script>

<template>
  <svg class="wires" aria-hidden="true">
    <g
      v-for="w in routed"
      :key="w.id"
      v-memo="[w.path, picked.has(w.id), w.slashes, w.surface]"
      class="wire"
      :class="{ at: picked.has(w.id) }"
      :data-id="w.id"
      @click="emit('pick', w.id, $event.ctrlKey || $event.metaKey)"
    >
      <path class="line" :d="pathText(w.path)" />
      <path class="marks" :d="marksText(w.path, w)" />
      <path class="hit" :d="pathText(w.path)" />
    </g>
  </svg>
</template>

<style scoped>
.wires {
  position: absolute;
  top: 0;
  left: 0;
  width: 1px;
  height: 1px;
  overflow: visible;
  /* behind the cards, over the frames about them */
  z-index: -1;
}
path {
  fill: none;
  stroke: var(--ink);
  pointer-events: none;
}
.at .line {
  stroke: var(--accent);
  stroke-width: 2;
}
.hit {
  stroke: transparent;
  stroke-width: 14;
  pointer-events: stroke;
  cursor: pointer;
}
</style>
