<script setup lang="ts">
import type { TableColumn } from '@nuxt/ui'
import type { Frame } from '../../shared/api'
import { underWay } from '../words/frames'
import { when } from '../words/when'

/** Frames of the queue as a table. */
defineProps<{ frames: readonly Frame[] }>()
const emit = defineEmits<{
  keep: [frame: Frame]
  save: [frame: Frame]
  stop: [frame: Frame]
  retry: [frame: Frame]
  takeOff: [frame: Frame]
}>()
const columns: TableColumn<Frame>[] = [
  { id: 'picture', header: '' },
  { id: 'name', header: 'Frame' },
  { id: 'size', header: 'Size' },
  { id: 'lights', header: 'Lights' },
  { id: 'state', header: 'State' },
  { id: 'created', header: 'Asked for' },
  { id: 'tools', header: '' },
]
/** Height of a row, pixels. */
const ROW = 54
const meta = { class: { tr: (row: { original: Frame }) => `frame-${row.original.status}` } }
const WORDS: Record<Frame['status'], string> = {
  queued: 'waits',
  running: 'is computed',
  done: 'done',
  failed: 'failed',
  stopped: 'stopped',
}
const took = (s: number) => (s >= 60 ? `${Math.floor(s / 60)} min ${Math.round(s % 60)} s` : `${s.toFixed(1)} s`)
const left = (f: Frame) =>
  f.status === 'running' && f.passes > 0
    ? `, about ${took((f.seconds / f.passes) * (f.settings.passes - f.passes))} left`
    : ''
</script>

<template>
  <UTable
    class="frames"
    caption="Frames"
    :data="frames as Frame[]"
    :columns="columns"
    :meta="meta"
    :get-row-id="f => f.id"
    :virtualize="{ estimateSize: ROW }"
    :watch-options="{ deep: false }"
    sticky
  >
    <template #picture-header><span class="sr-only">Picture</span></template>
    <template #picture-cell="{ row: { original: f } }">
      <span class="pic" :data-frame="f.id">
        <img v-if="f.thumbnail" :src="`/api/assets/${f.thumbnail}`" alt="" />
      </span>
    </template>
    <template #name-cell="{ row: { original: f } }">
      <b class="name" :title="f.name">{{ f.name }}</b>
      <NuxtLink class="name small" :to="`/bench/${f.project}`">{{ f.projectName }}</NuxtLink>
    </template>
    <template #size-cell="{ row: { original: f } }">{{ f.settings.width }} × {{ f.settings.height }}</template>
    <template #lights-cell="{ row: { original: f } }">
      {{ f.lights }}
      <span v-if="f.settings.aov.length" class="name small">with {{ f.settings.aov.join(', ') }}</span>
    </template>
    <template #state-cell="{ row: { original: f } }">
      <template v-if="underWay(f)">
        <UProgress
          :model-value="f.passes"
          :max="f.settings.passes"
          :get-value-label="() => `Samples of ${f.name}`"
        />
        <span class="small">
          {{ WORDS[f.status] }}: {{ f.passes }} of {{ f.settings.passes }} samples{{ left(f) }}
        </span>
      </template>
      <template v-else-if="f.status === 'done'">
        done after {{ took(f.seconds) }}, {{ f.settings.passes }} samples
      </template>
      <span v-else class="said" :title="f.message">
        {{ WORDS[f.status] }}<template v-if="f.message">: {{ f.message }}</template>
      </span>
    </template>
    <template #created-cell="{ row }">{{ when(row.original.created) }}</template>
    <template #tools-header><span class="sr-only">Tools</span></template>
    <template #tools-cell="{ row: { original: f } }">
      <span class="tools">
        <UButton
          v-if="f.picture"
          :aria-label="`Keep ${f.name} as a proof`"
          title="Among the proofs of its project, to wipe it against the live picture"
          @click="emit('keep', f)"
        >
          Keep
        </UButton>
        <UButton v-if="f.picture" :aria-label="`Save ${f.name} as EXR`" @click="emit('save', f)">EXR</UButton>
        <UButton v-if="underWay(f)" :aria-label="`Stop ${f.name}`" @click="emit('stop', f)">Stop</UButton>
        <UButton
          v-if="f.status === 'failed' || f.status === 'stopped'"
          :aria-label="`Begin ${f.name} anew`"
          @click="emit('retry', f)"
          >Anew</UButton
        >
        <UButton v-if="!underWay(f)" :aria-label="`Take ${f.name} off the list`" @click="emit('takeOff', f)"
          >Take off</UButton
        >
      </span>
    </template>
  </UTable>
</template>

<style>
.frames {
  flex: 1;
  min-height: 0;
}
.frames .pic {
  display: block;
  width: 76px;
  aspect-ratio: 8 / 5;
  background: var(--ground);
}
.frames .pic img {
  width: 100%;
  height: 100%;
  object-fit: contain;
  display: block;
}
.frames td:first-child {
  width: 92px;
}
.frames .name {
  display: block;
  max-width: 26vw;
  overflow: hidden;
  text-overflow: ellipsis;
}
.frames a.name {
  text-decoration: underline;
}
/* why a frame failed has all the room that it needs */
.frames .said {
  white-space: normal;
  overflow-wrap: anywhere;
}
.frames .tools {
  display: flex;
  gap: 4px;
  justify-content: flex-end;
}
</style>
