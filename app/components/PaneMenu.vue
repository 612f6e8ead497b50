<script setup lang="ts">
import { fieldOf } from '../input/field'
import type { MenuItem } from '../menus/menu-item'

/** The menu of a pane at the pointer, or at what has the focus: made when it is asked for. */
const props = defineProps<{
  /** What can be done with what lies there; nothing leaves the browser's own menu. */
  of: (at: Element) => readonly MenuItem[]
}>()
const items = shallowRef<MenuItem[]>([])
function make(e: MouseEvent): void {
  const at = e.target as Element
  const found = fieldOf(e) ? [] : props.of(at)
  // fields keep the browser's menu, with its copying and pasting
  if (!found.length) e.stopPropagation()
  else items.value = [...found]
}
</script>

<template>
  <div class="pane-menu" @contextmenu.capture="make">
    <UContextMenu :items="items" :modal="false">
      <slot />
    </UContextMenu>
  </div>
</template>

<style scoped>
.pane-menu {
  display: contents;
}
</style>
