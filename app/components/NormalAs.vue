<script setup lang="ts">
import { normalAs, takeNormalAs } from '../../core/network/normal-as'

/** What a picture on a normal is taken as, and the other thing that it can be taken as. */
const props = defineProps<{ node: string; input: string }>()
const bench = useBench()
const taken = computed(() => (bench.document ? normalAs(bench.document, props.node, props.input)?.as : undefined))
const other = computed(() => (taken.value === 'height' ? 'normals' : 'height'))
const change = () =>
  void bench.edit(`${props.input} of ${props.node} is taken as ${other.value}`, d =>
    takeNormalAs(d, props.node, props.input, other.value),
  )
</script>

<template>
  <span v-if="taken" class="taken small">
    taken as {{ taken }}
    <UButton variant="link" :aria-label="`Take it as ${other}`" @click="change">as {{ other }}</UButton>
  </span>
</template>

<style scoped>
.taken {
  grid-column: 3 / 5;
  display: flex;
  justify-content: flex-end;
  align-items: center;
  gap: 9px;
}
.taken :deep(button) {
  text-decoration: underline dotted;
}
</style>
