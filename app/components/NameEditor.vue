<script setup lang="ts">
/** A name under the hand, where it stands: Enter or a press elsewhere keeps it, Esc leaves it as it was. */
const props = defineProps<{
  text: string
  label: string
  /** Whether it has several lines: Enter adds one. */ lines?: boolean
}>()
const emit = defineEmits<{ keep: [text: string]; close: [] }>()
const text = ref(props.text)
const root = useTemplateRef('root')
let over = false
function end(keep: boolean): void {
  if (over) return
  over = true
  if (keep && text.value.trim() !== props.text) emit('keep', text.value)
  emit('close')
}
function key(e: KeyboardEvent): void {
  e.stopPropagation()
  if (e.key === 'Escape') end(false)
  else if (e.key === 'Enter' && !(props.lines && !e.ctrlKey && !e.metaKey)) {
    e.preventDefault()
    end(true)
  }
}
/** Takes the focus once it can: what is new on the canvas is not seen before it has been measured. */
function takeFocus(): void {
  const field = root.value?.querySelector<HTMLInputElement | HTMLTextAreaElement>('input, textarea')
  field?.focus()
  if (field && document.activeElement !== field) requestAnimationFrame(takeFocus)
  else field?.select()
}
onMounted(takeFocus)
</script>

<template>
  <span
    ref="root"
    class="name-editor nodrag nopan"
    @keydown="key"
    @focusout="end(true)"
    @pointerdown.stop
    @click.stop
    @dblclick.stop
  >
    <UTextarea v-if="lines" v-model="text" :aria-label="label" :rows="3" autoresize />
    <UInput v-else v-model="text" :aria-label="label" />
  </span>
</template>

<style>
.name-editor {
  display: block;
  min-width: 0;
  font-weight: 500;
}
.name-editor > * {
  width: 100%;
}
/* from afar it is as large on the screen as it is from near */
:is(.middling, .far) .name-editor {
  position: absolute;
  z-index: 2;
  top: 100%;
  left: 0;
  width: calc(var(--name) * 14);
}
:is(.middling, .far) .name-editor :is(input, textarea) {
  height: auto;
  font-size: var(--name);
  line-height: 1.6;
}
</style>
