<script setup lang="ts">
import { Position } from '@vue-flow/core'
import { CardTab, useMeasuredTabs } from '../canvas/card-tab'
import { CARD, tabOf, type Shown } from '../canvas/cards'

/** A group opened in place: a frame around its cards, with its inputs and outputs as tabs at the edge. */
const props = defineProps<Shown>()
const named = inject<Ref<ReadonlySet<string>>>('far-names')!
const { editing, begin, keep, close } = useRenaming('node', () => props.id)
const toggle = inject<(name: string) => void>('toggle-group')!
useMeasuredTabs(props)
const INPUT = { left: -CARD.tab + 'px' }
const OUTPUT = { right: -CARD.tab + 'px' }
</script>

<template>
  <div class="frame" :class="{ at: selected, named: named.has(id) }" :aria-label="`${data.title}, open group`">
    <div class="name">
      <NameEditor v-if="editing" :text="data.title" label="Name of the group" @keep="keep" @close="close" />
      <b v-else @dblclick.stop="begin">{{ data.title }}</b> <span class="small">group</span>
      <UButton
        variant="ghost"
        class="nodrag"
        :aria-label="`Close the group ${data.title}`"
        @click.stop="toggle(id)"
      >
        close
      </UButton>
    </div>
    <template v-for="(i, k) in data.inputs" :key="i.name">
      <CardTab
        :node="id"
        :name="i.name"
        type="target"
        :position="Position.Left"
        :style="{ top: CARD.input(k) + 'px', ...INPUT }"
        :title="`${i.name}: ${i.type}`"
        >{{ tabOf(i.type) }}</CardTab
      >
      <CardTab
        :node="id"
        :name="`in:${i.name}`"
        class="inner"
        type="source"
        still
        :position="Position.Right"
        :style="{ top: CARD.input(k) + 'px', left: '0' }"
      />
      <span class="port" :style="{ top: CARD.input(k) - 19 + 'px' }" :title="`${i.name} (${i.type})`">{{
        i.name
      }}</span>
    </template>
    <template v-for="(o, k) in data.outputs" :key="o.name">
      <CardTab
        :node="id"
        :name="o.name"
        type="source"
        :position="Position.Right"
        :style="{ top: CARD.output(k) + 'px', ...OUTPUT }"
        :title="`${o.name}: gives ${o.type}`"
        >{{ tabOf(o.type) }}</CardTab
      >
      <CardTab
        :node="id"
        :name="`out:${o.name}`"
        class="inner"
        type="target"
        still
        :position="Position.Left"
        :style="{ top: CARD.output(k) + 'px', right: '0', left: 'auto' }"
      />
    </template>
  </div>
</template>

<style scoped>
.frame {
  width: 100%;
  height: 100%;
  border: 1px dashed var(--ink);
  background: var(--paper);
  font-size: 12px;
}
.frame.at {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.name {
  padding: 2px 8px 0;
  display: flex;
  gap: 6px;
  align-items: baseline;
}
:is(.middling, .far) .frame .name b {
  font-size: var(--name);
}
:is(.middling, .far) .frame :is(.port, .small) {
  visibility: hidden;
}
.far .frame:not(.at, .named, :hover) .name b {
  visibility: hidden;
}
.port {
  position: absolute;
  left: 3px;
  max-width: 66px;
  font-size: 11px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  pointer-events: none;
}
.vue-flow__handle.inner {
  width: 1px;
  height: 1px;
  border: 0;
  background: none;
  pointer-events: none;
  margin-top: 0;
}
</style>
