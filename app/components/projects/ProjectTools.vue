<script setup lang="ts">
import type { ProjectSummary } from '../../../shared/api'

/** What is done to a project; seen while the pointer or the focus is on it. */
defineProps<{ project: ProjectSummary }>()
const emit = defineEmits<{ rename: []; copy: []; remove: [] }>()
</script>

<template>
  <span class="tools">
    <UButton
      variant="ghost"
      icon="i-lucide-pencil"
      title="Rename"
      :aria-label="`Rename ${project.name}`"
      @click="emit('rename')"
    />
    <UButton
      variant="ghost"
      icon="i-lucide-copy"
      title="Duplicate"
      :aria-label="`Duplicate ${project.name}`"
      @click="emit('copy')"
    />
    <UButton
      variant="ghost"
      icon="i-lucide-trash-2"
      title="Delete; it can be brought back"
      :aria-label="`Delete ${project.name}`"
      @click="emit('remove')"
    />
  </span>
</template>

<style scoped>
.tools {
  display: inline-flex;
}
</style>
