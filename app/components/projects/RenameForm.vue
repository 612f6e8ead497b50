<script setup lang="ts">
import { renameSchema, type ProjectSummary } from '../../../shared/api'

/** Gives a project another name. */
const props = defineProps<{ project: ProjectSummary }>()
const emit = defineEmits<{ rename: [name: string]; leave: [] }>()
const state = reactive({ name: props.project.name })
function submit(name: string): void {
  if (name.trim() === props.project.name) emit('leave')
  else emit('rename', name.trim())
}
</script>

<template>
  <UForm :schema="renameSchema" :state="state" class="rename" @submit="submit($event.data.name)">
    <UFormField name="name">
      <UInput
        v-model="state.name"
        :aria-label="`New name of ${project.name}`"
        maxlength="120"
        autofocus
        @keydown.esc="emit('leave')"
      />
    </UFormField>
    <UButton type="submit">Rename</UButton>
  </UForm>
</template>

<style scoped>
.rename {
  display: flex;
  gap: 4px;
  align-items: flex-start;
  padding-top: 4px;
}
.rename :deep(.form-field) {
  display: block;
  flex: 1;
}
.rename :deep(input) {
  width: 100%;
}
</style>
