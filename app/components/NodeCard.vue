<script setup lang="ts">
import { Handle, Position, type NodeProps } from '@vue-flow/core'
import { CARD, tabOf, type CardData } from '../canvas/cards'
import { developPicture } from '../../core/render/display'

const props = defineProps<NodeProps<CardData>>()
const picture = ref<HTMLCanvasElement>()
const toggle = inject<(name: string) => void>('toggle-group')!

const drawn = inject<Map<string, Float32Array>>('card-pictures')!
const shown = computed(() => drawn.get(props.id))
watch([shown, picture], () => {
  const p = shown.value
  const c = picture.value?.getContext('2d')
  if (!p || !c) return
  const size = Math.sqrt(p.length / 3)
  const image = new ImageData(size, size)
  developPicture(p, 0, image.data)
  c.putImageData(image, 0, 0)
})
</script>

<template>
  <div
    class="card"
    :class="{ at: selected, tapped: data.tapped, off: data.off, faulty: data.faults.length > 0 }"
    :aria-label="`${data.title}, ${data.kind}`"
  >
    <div class="left">
      <canvas ref="picture" width="44" height="44" :class="{ empty: !shown }" />
      <button
        v-if="data.group"
        class="kind open nodrag"
        :aria-label="`Open the group ${data.title}`"
        @click.stop="toggle(id)"
      >
        open
      </button>
      <div v-else class="kind" :title="data.kind">{{ data.kind }}</div>
    </div>
    <div class="body">
      <div class="title" :title="data.title">{{ data.title }}</div>
      <div
        v-for="i in data.inputs"
        :key="i.name"
        class="input"
        :class="{ wired: i.wired }"
        :title="`${i.name} (${i.type})`"
      >
        <span>{{ i.name }}</span>
        <span>{{ i.value }}</span>
      </div>
      <div v-if="data.faults.length" class="fault" :title="data.faults.join('\n')">{{ data.faults[0] }}</div>
    </div>
    <Handle
      v-for="(i, k) in data.inputs"
      :id="i.name"
      :key="i.name"
      type="target"
      :position="Position.Left"
      :style="{ top: CARD.input(k) + 'px', left: -CARD.tab + 'px' }"
      :title="`${i.name}: ${i.type}`"
      >{{ tabOf(i.type) }}</Handle
    >
    <Handle
      v-for="(o, k) in data.outputs"
      :id="o.name"
      :key="o.name"
      type="source"
      :position="Position.Right"
      :style="{ top: CARD.output(k) + 'px', right: -CARD.tab + 'px' }"
      :title="data.group ? `${o.name}: gives ${o.type}` : `gives ${o.type}`"
      >{{ tabOf(o.type) }}</Handle
    >
  </div>
</template>

<style scoped>
.card {
  width: 148px;
  min-height: 68px;
  border: 1px solid var(--ink);
  background: var(--paper);
  display: flex;
  font-size: 12px;
}
.card.at {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.card.tapped {
  background: var(--raised);
  border-width: 2px;
}
.card.off {
  opacity: 0.45;
}
.card.faulty .title {
  text-decoration: line-through;
}
.left {
  width: 46px;
  border-right: 1px solid var(--rule);
  flex: none;
}
canvas {
  width: 44px;
  height: 44px;
  display: block;
  border-bottom: 1px solid var(--rule);
  background: var(--sunk);
}
.kind {
  font-size: 11px;
  text-align: center;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 1px;
  color: var(--soft);
}
.open {
  width: 100%;
  text-decoration: underline;
  min-height: 20px;
}
.body {
  flex: 1;
  min-width: 0;
  padding: 2px 5px 3px;
}
.title {
  font-weight: 600;
  height: 24px;
  line-height: 22px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.input {
  display: flex;
  justify-content: space-between;
  gap: 4px;
  height: 19px;
  line-height: 19px;
  overflow: hidden;
  white-space: nowrap;
}
.input span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
}
.input span:last-child {
  font-weight: 600;
  flex: none;
  max-width: 60px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.fault {
  border-top: 1px solid var(--ink);
  font-size: 11px;
  max-height: 30px;
  overflow: hidden;
}
</style>
