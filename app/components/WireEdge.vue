<script setup lang="ts">
import { BaseEdge, type EdgeProps } from '@vue-flow/core'
import { pathText, type Path } from '../canvas/route'

/**
 * A wire of one weight with short slashes, one a component; surfaces are a ladder. It runs where it was routed,
 * clear of every card.
 */
const props = defineProps<EdgeProps<{ slashes: number; surface: boolean }>>()
const routed = inject<Ref<Map<string, Path>>>('wire-paths')!
const path = computed<Path>(
  () =>
    routed.value.get(props.id) ?? [
      [props.sourceX, props.sourceY],
      [props.targetX, props.targetY],
    ],
)
/** Marks stand in the middle of the longest stretch. */
const marks = computed(() => {
  const p = path.value
  const length = (i: number) => Math.hypot(p[i]![0] - p[i - 1]![0], p[i]![1] - p[i - 1]![1])
  let at = 1
  for (let i = 2; i < p.length; i++) if (length(i) > length(at)) at = i
  const [ax, ay] = p[at - 1]!
  const [bx, by] = p[at]!
  const x = (ax + bx) / 2
  const y = (ay + by) / 2
  const l = length(at) || 1
  const c = (bx - ax) / l
  const s = (by - ay) / l
  const n = props.data?.surface ? 5 : (props.data?.slashes ?? 1)
  const lean = props.data?.surface ? 0 : 3
  return Array.from({ length: n }, (_, i) => {
    const d = (i - (n - 1) / 2) * 4
    const px = x + d * c
    const py = y + d * s
    return `M ${px - s * 4 + c * lean} ${py + c * 4 + s * lean} L ${px + s * 4 - c * lean} ${py - c * 4 - s * lean}`
  }).join(' ')
})
</script>

<template>
  <BaseEdge
    :id="id"
    :path="pathText(path)"
    :style="{ stroke: selected ? 'var(--accent)' : 'var(--ink)', strokeWidth: selected ? 2 : 1 }"
  />
  <path :d="marks" stroke="var(--ink)" stroke-width="1" fill="none" />
</template>
