<script setup lang="ts">
import { BaseEdge, getBezierPath, type EdgeProps } from '@vue-flow/core'

/** A wire of one weight with short slashes, one a component; surfaces are a ladder. */
const props = defineProps<EdgeProps<{ slashes: number, surface: boolean }>>()
const path = computed(() => getBezierPath({ ...props, curvature: 0.35 }))
const marks = computed(() => {
  const [, x, y] = path.value, n = props.data?.surface ? 5 : props.data?.slashes ?? 1
  const angle = Math.atan2(props.targetY - props.sourceY, props.targetX - props.sourceX) * 0.8, c = Math.cos(angle), s = Math.sin(angle)
  return Array.from({ length: n }, (_, i) => {
    const d = (i - (n - 1) / 2) * 4, px = x + d * c, py = y + d * s, lean = props.data?.surface ? 0 : 3
    return `M ${px - s * 4 - c * lean * -1} ${py + c * 4 + s * lean} L ${px + s * 4 - c * lean} ${py - c * 4 - s * lean}`
  }).join(' ')
})
</script>

<template>
  <BaseEdge :id="id" :path="path[0]" :style="{ stroke: selected ? 'var(--accent)' : 'var(--ink)', strokeWidth: selected ? 2 : 1 }" />
  <path :d="marks" stroke="var(--ink)" stroke-width="1" fill="none" />
</template>
