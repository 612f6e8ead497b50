<script setup lang="ts">
/** Label of a layer beside the cross-section. Dragged, it moves the layer. */
const props = defineProps<{
  node: string
  /** Node that has the name. */
  surface: string
  kind: string
  title: string
  detail: string
  at: number
  selected: boolean
  off: boolean
  alone: boolean
  check?: string
}>()
const emit = defineEmits<{
  /** With `too` beside what is picked. */
  select: [node: string, too: boolean]
  toggle: [node: string]
  drag: [node: string, e: PointerEvent]
}>()
const { editing, begin, close } = useRenaming('layer', () => props.node)
const { keep } = useRenaming('node', () => props.surface)
</script>

<template>
  <div class="label" :class="{ at: selected, off }" :style="{ top: at + 'px' }">
    <NameEditor v-if="editing" :text="title" label="Name of the layer, here" @keep="keep" @close="close" />
    <button
      v-else
      class="name"
      :title="title"
      :data-layer="node"
      :aria-pressed="selected"
      @click="emit('select', node, $event.ctrlKey || $event.metaKey)"
      @dblclick="begin"
      @pointerdown="emit('drag', node, $event)"
    >
      {{ kind === 'cut' ? '⌵ ' : '' }}{{ title }}<span v-if="alone" class="small"> alone</span>
    </button>
    <span v-if="check" class="check" role="img" :aria-label="check" :title="check">!</span>
    <button
      v-if="kind !== 'stock'"
      class="q"
      :aria-label="`${off ? 'Switch on' : 'Switch off'} ${title}`"
      :aria-pressed="!off"
      @click="emit('toggle', node)"
    >
      <UIcon :name="off ? 'i-lucide-eye-off' : 'i-lucide-eye'" />
    </button>
    <div class="small" :title="detail">{{ detail }}</div>
  </div>
</template>

<style scoped>
.label {
  position: absolute;
  left: var(--labels);
  right: 4px;
  height: 37px;
  display: grid;
  grid-template-columns: 1fr auto 24px;
  grid-template-rows: 22px 14px;
  line-height: 1.15;
}
.name {
  text-align: left;
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 22px;
  cursor: grab;
  touch-action: none;
}
.at .name {
  color: var(--accent);
  background: var(--raised);
}
.off .name {
  text-decoration: line-through;
}
.small {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  font-weight: 500;
}
div.small {
  grid-column: 1 / 4;
}
.check {
  border: 1px solid var(--ink);
  background: var(--light);
  font-weight: 600;
  width: 16px;
  height: 16px;
  line-height: 15px;
  text-align: center;
  align-self: center;
}
.q {
  grid-column: 3;
}
</style>
