<script setup lang="ts">
import { person } from '../drafts/tab'
import { when } from '../words/when'
import type { useVersions } from '../composables/useVersions'

/** Unsaved work that was found, what was saved elsewhere, and the choice after a save that was refused. */
const props = defineProps<{ versions: ReturnType<typeof useVersions> }>()
const bench = useBench()
const drafts = props.versions.drafts
const { offered, count } = drafts
const { conflict } = props.versions
const { theirs } = props.versions.elsewhere
const me = person()
const head = computed(() => bench.project?.head ?? 0)
const newer = computed(() => offered.value !== null && offered.value.base < head.value)
</script>

<template>
  <div v-if="theirs !== null && !conflict" class="bar" role="status" data-testid="theirs">
    <span>v{{ theirs }} was saved in another window.</span>
    <UButton @click="versions.takeTheirs(theirs)">Take theirs</UButton>
    <UButton @click="versions.elsewhere.pass()">Keep mine</UButton>
    <UButton @click="versions.lookAtBoth()">Look at both</UButton>
  </div>
  <div v-else-if="offered" class="bar" role="status" data-testid="draft">
    <span
      >Unsaved work of {{ when(offered.updated) }}{{ offered.person === me ? '' : ' in another browser' }} was
      kept{{ newer ? `; it began from v${offered.base}, the project is at v${head} now` : ''
      }}{{ count > 1 ? `; ${count - 1} more` : '' }}.</span
    >
    <UButton @click="drafts.take()">{{ newer ? `Go on from v${offered.base}` : 'Take it up' }}</UButton>
    <UButton v-if="newer" @click="drafts.keepBeside()">Keep it as a version</UButton>
    <UButton @click="drafts.forget()">Drop it</UButton>
  </div>
  <LazySaveConflict
    v-if="conflict"
    :conflict="conflict"
    @save-over="versions.saveOver()"
    @take-theirs="versions.takeTheirs()"
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
