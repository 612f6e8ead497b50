<script setup lang="ts">
import type { ComponentPublicInstance } from 'vue'

/** Asks what one unit of a model is, with the size that each answer gives. */
const props = defineProps<{ extent: readonly [number, number, number] }>()
const emit = defineEmits<{ answer: [unit: number | undefined] }>()
const UNITS = [
  { name: 'millimetre', metres: 0.001 },
  { name: 'centimetre', metres: 0.01 },
  { name: 'inch', metres: 0.0254 },
  { name: 'metre', metres: 1 },
]
const first = ref<ComponentPublicInstance[]>([])
onMounted(() => (first.value[0]?.$el as HTMLElement | undefined)?.focus())
const written = (m: number) =>
  m >= 1
    ? `${+m.toPrecision(3)} m`
    : m >= 0.01
      ? `${+(m * 100).toPrecision(3)} cm`
      : `${+(m * 1000).toPrecision(3)} mm`
const size = (metres: number) => props.extent.map(x => written(x * metres)).join(' × ')
</script>

<template>
  <div
    class="ask"
    role="dialog"
    aria-label="Unit of the model"
    data-testid="unit-question"
    @keydown.esc="emit('answer', undefined)"
  >
    <b>What is one unit of this model?</b>
    <p class="small">
      The file does not say, or says something unlikely. Thicknesses and radii of materials are lengths: the size
      matters.
    </p>
    <ul>
      <li v-for="u in UNITS" :key="u.name">
        <UButton ref="first" @click="emit('answer', u.metres)">A {{ u.name }}</UButton>
        {{ ' ' }}
        <span>{{ size(u.metres) }}</span>
      </li>
    </ul>
    <UButton @click="emit('answer', undefined)">Stop</UButton>
  </div>
</template>

<style scoped>
.ask {
  border: 1px solid var(--ink);
  background: var(--raised);
  padding: 10px 14px;
  margin: 10px 0;
  max-width: 460px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0;
  display: grid;
  gap: 4px;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
}
li .b {
  min-width: 120px;
  text-align: left;
}
p {
  margin: 4px 0;
}
</style>
