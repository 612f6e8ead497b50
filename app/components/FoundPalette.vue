<script setup lang="ts">
import type { Hit, HitGroup } from '../words/hits'

/** What find-or-add found: a field and a list. Fetched once the picture stands. */
const text = defineModel<string>('text', { required: true })
const props = defineProps<{ found: readonly HitGroup[] }>()
const emit = defineEmits<{ choose: [hit: Hit] }>()
/** Most of a group that are shown. */
const MOST = { resultLimit: 40 }
const INPUT: object = { 'aria-label': 'Find or add', 'spellcheck': false }
/** Ranked by us: the library's own filter takes a part of it. */
const groups = computed(() =>
  props.found.map(g => ({
    id: g.title,
    label: g.title,
    ignoreFilter: true,
    items: g.hits.map(hit => ({ label: hit.title, hit, onSelect: () => emit('choose', hit) })),
  })),
)
const root = useTemplateRef('root')
/** What is typed quickly is not marked in the list yet when Enter comes: the best hit is meant then. */
function enter(): void {
  const marked = root.value!.querySelector<HTMLElement>('[data-highlighted] [data-hit]')?.dataset.hit
  const hits = props.found.flatMap(g => g.hits)
  const hit = hits.find(h => h.id === marked) ?? hits.at(0)
  if (hit) emit('choose', hit)
}
/**
 * Something is marked as long as something is found. The library marks on presses in the field alone, not before its
 * list is drawn, and draws that anew by clocks of its own: so it is looked at with every frame while it is open.
 */
function mark(): void {
  marking = requestAnimationFrame(mark)
  const list = root.value
  if (list?.querySelector('[role=option]') && !list.querySelector('[data-highlighted]'))
    list.querySelector('input')?.dispatchEvent(new Event('input', { bubbles: true }))
}
let marking = 0
onMounted(() => {
  // the library's list has no name of its own
  root.value!.querySelector('[role=listbox]')?.setAttribute('aria-label', 'What is found')
  mark()
})
onBeforeUnmount(() => cancelAnimationFrame(marking))
</script>

<template>
  <div ref="root" class="palette" @keydown.enter.capture.stop.prevent="enter" @pointerleave.capture.stop>
    <UCommandPalette
      v-model:search-term="text"
      placeholder="A node, part, material or action"
      :groups="groups"
      :fuse="MOST"
      preserve-group-order
      :input="INPUT"
    >
      <template #item-trailing="{ item }">
        <span class="small" :data-hit="item.hit.id">{{ item.hit.detail }}</span>
      </template>
      <template #empty="{ searchTerm }">Nothing is called “{{ searchTerm }}”.</template>
    </UCommandPalette>
  </div>
</template>

<style>
.palette {
  width: 340px;
  max-height: 60vh;
  display: flex;
  flex-direction: column;
}
</style>
