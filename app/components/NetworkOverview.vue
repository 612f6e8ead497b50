<script setup lang="ts">
import { useVueFlow, type GraphNode } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import type { Placed } from '../canvas/arrange'

/** All of the network in a corner, with what is in sight: shown where that is not all, and the canvas has room. */
const props = defineProps<{ standing: readonly Placed[] }>()
/** Least size of the canvas, pixels. */
const ROOM = { width: 560, height: 300 }
const { viewport, dimensions } = useVueFlow('network')
const edges = computed(() => {
  const top = props.standing.filter(p => p.parent === undefined)
  return {
    left: Math.min(...top.map(p => p.x)),
    up: Math.min(...top.map(p => p.y)),
    right: Math.max(...top.map(p => p.x + p.width)),
    down: Math.max(...top.map(p => p.y + p.height)),
  }
})
const shown = computed(() => {
  const { width, height } = dimensions.value
  if (width < ROOM.width || height < ROOM.height || !props.standing.length) return false
  const { x, y, zoom } = viewport.value
  const { left, up, right, down } = edges.value
  return left * zoom + x < 0 || up * zoom + y < 0 || right * zoom + x > width || down * zoom + y > height
})
const tint = (n: GraphNode) => (n.type === 'card' ? 'var(--soft)' : 'transparent')
const edge = (n: GraphNode) => (n.selected ? 'var(--accent)' : 'var(--ink)')
</script>

<template>
  <MiniMap
    v-if="shown"
    class="overview"
    aria-label="Overview of the network"
    position="bottom-right"
    pannable
    zoomable
    :width="168"
    :height="112"
    :node-border-radius="0"
    :node-color="tint"
    :node-stroke-color="edge"
    :node-stroke-width="6"
    mask-color="transparent"
    mask-stroke-color="var(--accent)"
    :mask-stroke-width="2"
  />
</template>

<style>
@import '@vue-flow/minimap/dist/style.css';
.vue-flow__minimap.overview {
  background: var(--paper);
  border: 1px solid var(--ink);
  margin: 8px;
}
</style>
