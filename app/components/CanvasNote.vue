<script setup lang="ts">
import type { Shown } from '../canvas/cards'

/** A note on the network. */
const props = defineProps<Shown>()
const { editing, begin, keep, close } = useRenaming('node', () => props.id)
</script>

<template>
  <div class="note" :class="{ at: selected }" :aria-label="`Note: ${data.title}`" @dblclick="begin">
    <NameEditor v-if="editing" :text="data.title" label="Text of the note" lines @keep="keep" @close="close" />
    <p v-else>{{ data.title || 'Empty note' }}</p>
  </div>
</template>

<style scoped>
.note {
  width: 200px;
  border-left: 2px solid var(--ink);
  background: var(--raised);
  padding: 7px 8px;
  font-size: 13px;
}
.note.at {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
p {
  margin: 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  line-height: 17px;
}
/* from afar a note is a mark: its text is read from near */
.far .note p {
  visibility: hidden;
}
</style>
