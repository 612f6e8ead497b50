<script setup lang="ts">
import { usePanelPlace } from '../view/usePanelPlace'

/** A panel over the picture, which stays draggable: it is moved by its head, or docked beside the picture. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  /** As `stage.panel` has it. */
  name: string
  title: string
  /** Width and greatest height over the picture, pixels. */
  width: number
  height: number
}>()
const emit = defineEmits<{ close: [] }>()
const panel = ref<HTMLElement>()
const { at, drag, step, toggleDock } = usePanelPlace(props.name, panel)
const style = computed(() => {
  const { x, y, dock } = at.value
  if (dock) return {}
  const size = { width: `min(${props.width}px, 100% - 16px)`, maxHeight: `min(${props.height}px, 100% - 16px)` }
  return x === undefined || y === undefined
    ? { ...size, left: '8px', bottom: '8px' }
    : {
        ...size,
        left: `clamp(0px, ${x}px, 100% - 120px)`,
        top: `clamp(0px, ${y}px, max(0px, 100% - ${Math.min(props.height, 220)}px))`,
      }
})
/** The button keeps the focus where the panel goes. */
async function dock(e: MouseEvent): Promise<void> {
  const button = e.currentTarget as HTMLElement
  toggleDock()
  await nextTick()
  button.focus()
}
</script>

<template>
  <Teleport defer :to="`#beside-${at.dock ?? 'left'}`" :disabled="!at.dock">
    <div
      ref="panel"
      v-bind="$attrs"
      class="panel"
      :class="{ docked: at.dock }"
      role="dialog"
      :aria-label="title"
      :style="style"
      @keydown.esc="emit('close')"
      @pointerdown.stop
      @pointerup.stop
      @wheel.stop
    >
      <div class="head" :class="{ grip: !at.dock }" @pointerdown="drag">
        <b>{{ title }}</b>
        <span class="says"><slot name="says" /></span>
        <UButton
          v-if="!at.dock"
          variant="ghost"
          icon="i-lucide-move"
          :aria-label="`Move: ${title}`"
          title="Drag the head, or press arrow keys here; let go at an edge of the picture, it stands beside it"
          @keydown="step"
        />
        <UButton
          variant="ghost"
          :icon="at.dock ? 'i-lucide-panel-left-close' : 'i-lucide-panel-left'"
          :aria-label="at.dock ? `Over the picture: ${title}` : `Beside the picture: ${title}`"
          :title="at.dock ? 'Over the picture' : 'Beside the picture'"
          @click="dock"
        />
        <UButton
          variant="ghost"
          icon="i-lucide-x"
          :aria-label="`Close the ${title.toLowerCase()}`"
          @click="emit('close')"
        />
      </div>
      <slot />
    </div>
  </Teleport>
</template>

<style scoped>
.panel {
  position: absolute;
  z-index: 6;
  container-type: inline-size;
  background: var(--paper);
  border: 1px solid var(--ink);
  display: flex;
  flex-direction: column;
  cursor: default;
}
.panel.docked {
  position: static;
  width: 100%;
  height: 100%;
  border-width: 0;
}
.head.grip {
  cursor: move;
  touch-action: none;
}
.head {
  flex: none;
  justify-content: flex-start;
  gap: 2px;
}
.says {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 8px;
  padding-left: 8px;
}
</style>
