<script setup lang="ts">
import type { TableColumn } from '@nuxt/ui'
import type { VersionSummary } from '../../shared/api'
import { when } from '../words/when'

/** Versions of a project as a table, the newest first. */
defineProps<{
  versions: readonly VersionSummary[]
  /** The material at hand. */
  material: string | null
}>()
const emit = defineEmits<{ restore: [number: number, whole: boolean] }>()
const columns: TableColumn<VersionSummary>[] = [
  { id: 'picture', header: '' },
  { id: 'version', header: 'Version' },
  { id: 'restore', header: 'Take back' },
]
/** Height of a row, pixels. */
const ROW = 64
</script>

<template>
  <UTable
    class="versions-table"
    caption="Versions"
    :data="versions as VersionSummary[]"
    :columns="columns"
    :get-row-id="v => String(v.number)"
    :virtualize="{ estimateSize: ROW }"
    :watch-options="{ deep: false }"
    sticky
  >
    <template #picture-header><span class="sr-only">Picture</span></template>
    <template #picture-cell="{ row: { original: v } }">
      <span class="pic"><img v-if="v.thumbnail" :src="`/api/assets/${v.thumbnail}`" alt="" /></span>
    </template>
    <template #version-cell="{ row: { original: v } }">
      <b>v{{ v.number }}{{ v.aside ? ', beside the line' : '' }}</b>
      <span class="said small">{{ when(v.created) }}</span>
      <span class="said small" :title="v.note">{{ v.note }}</span>
    </template>
    <template #restore-cell="{ row: { original: v } }">
      <UButton :aria-label="`Restore v${v.number}`" @click="emit('restore', v.number, true)">All</UButton>
      {{ ' ' }}
      <UButton
        :title="`Take ${material ?? 'the material'} back alone`"
        :aria-label="`Restore the material of v${v.number}`"
        @click="emit('restore', v.number, false)"
      >
        Material only
      </UButton>
    </template>
  </UTable>
</template>

<style>
.versions-table {
  min-height: 90px;
  max-height: calc(60vh - 40px);
}
.versions-table table {
  table-layout: fixed;
}
.versions-table th:nth-child(1) {
  width: 104px;
}
.versions-table th:nth-child(3) {
  width: 148px;
}
.versions-table .pic {
  display: block;
  width: 88px;
  height: 55px;
  background: var(--ground);
}
.versions-table .pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.versions-table .said {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
