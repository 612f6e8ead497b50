<script setup lang="ts">
/**
 * A dialog beside the picture: nothing lies over the page, and a click outside goes where it is made and leaves the
 * dialog open.
 */
const props = defineProps<{
  title: string
  description: string
  /** Class that says where it stands. */
  place: string
  /** It wants an answer: it has no head, and Esc does not close it. */
  insists?: boolean
  testid?: string
}>()
const emit = defineEmits<{ close: [] }>()
const stay = (e: Event) => e.preventDefault()
const content = computed<object>(() => ({
  'onInteractOutside': stay,
  'data-testid': props.testid,
  ...(props.insists ? { role: 'alertdialog' } : {}),
}))
</script>

<template>
  <UModal
    :open="true"
    :title="title"
    :description="description"
    :modal="false"
    :overlay="false"
    :transition="false"
    :dismissible="!insists"
    :content="content"
    :ui="{ content: place }"
    @update:open="on => on || emit('close')"
  >
    <template #content>
      <div v-if="!insists" class="head">
        <b>{{ title }}</b>
        <span>
          <slot name="head" />
          <UButton variant="ghost" icon="i-lucide-x" aria-label="Close" @click="emit('close')" />
        </span>
      </div>
      <slot />
    </template>
  </UModal>
</template>
