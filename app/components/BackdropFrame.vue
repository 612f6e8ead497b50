<script setup lang="ts">
import type { Shown } from '../canvas/cards'

/** A titled frame about cards: moved by its title, it takes them along. */
const props = defineProps<Shown>()
const named = inject<Ref<ReadonlySet<string>>>('far-names')!
const { editing, begin, keep, close } = useRenaming('node', () => props.id)
</script>

<template>
  <div class="backdrop" :class="{ at: selected, named: named.has(id) }" :aria-label="`${data.title}, frame`">
    <div class="bar" title="Drag: moves all in it. Double-click: its title" @dblclick.stop="begin">
      <NameEditor v-if="editing" :text="data.title" label="Title of the frame" @keep="keep" @close="close" />
      <b v-else>{{ data.title || 'Frame' }}</b>
    </div>
  </div>
</template>

<style scoped>
.backdrop {
  width: 100%;
  height: 100%;
  border: 1px solid var(--soft);
}
.backdrop.at {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.bar {
  pointer-events: all;
  cursor: grab;
  height: 24px;
  padding: 1px 8px;
  background: var(--raised);
  border-bottom: 1px solid var(--soft);
  font-size: 13px;
  line-height: 22px;
  overflow: visible;
  white-space: nowrap;
}
/* from afar the title stands over the frame: there it is in no card's way */
:is(.middling, .far) .bar {
  position: absolute;
  bottom: 100%;
  left: -1px;
  height: auto;
  border: 1px solid var(--soft);
  font-size: var(--name);
  line-height: 1.2;
}
.far .backdrop:not(.at, .named) .bar:not(:hover) b {
  visibility: hidden;
}
</style>
