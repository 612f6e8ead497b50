<script setup lang="ts">
import type { Draft } from '../../shared/api'
import { when } from '../words/when'
import type { Conflict } from './SaveConflict.vue'

/** Unsaved work that was found, and the choice after a save that was refused. */
defineProps<{
  offered: Draft | null
  conflict: Conflict | null
  head: number
}>()
const emit = defineEmits<{ takeDraft: []; dropDraft: []; saveOver: []; takeTheirs: [] }>()
</script>

<template>
  <div v-if="offered" class="bar" role="status">
    <span
      >Unsaved work of {{ when(offered.updated) }} was kept{{
        offered.base < head ? `; it began from v${offered.base}, the project is at v${head} now` : ''
      }}.</span
    >
    <UButton @click="emit('takeDraft')">Take it up</UButton>
    <UButton @click="emit('dropDraft')">Drop it</UButton>
  </div>
  <LazySaveConflict
    v-if="conflict"
    :conflict="conflict"
    @save-over="emit('saveOver')"
    @take-theirs="emit('takeTheirs')"
  />
</template>

<style scoped>
/* over the panes: the picture does not begin anew because a notice came */
.bar {
  position: fixed;
  z-index: 30;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 6px 10px;
  background: var(--raised);
  border: 1px solid var(--ink);
}
</style>
