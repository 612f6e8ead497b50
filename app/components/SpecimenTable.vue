<script setup lang="ts">
import type { TableColumn } from '@nuxt/ui'
import type { SpecimenUses } from '../../shared/api'

interface Row {
  key: string
  title: string
  class: string
  source: string
}
/** What the library has, as a table: one row can be picked. */
const props = defineProps<{
  rows: readonly Row[]
  /** Colour of each by its key. */
  tints: ReadonlyMap<string, string>
  uses: SpecimenUses
  picked: string
}>()
const emit = defineEmits<{ pick: [key: string] }>()
const columns: TableColumn<Row>[] = [
  { id: 'title', header: 'Name' },
  { id: 'class', header: 'Class' },
  { id: 'uses', header: 'Used by' },
  { id: 'source', header: 'Source' },
]
/** Height of a row, pixels. */
const ROW = 29
const meta = { class: { tr: (row: { original: Row }) => (row.original.key === props.picked ? 'at' : '') } }
const projectsOf = (key: string) => [...new Set((props.uses[key] ?? []).map(u => u.name))].join(', ')
</script>

<template>
  <UTable
    class="specimens"
    caption="What the library has"
    :data="rows as Row[]"
    :columns="columns"
    :meta="meta"
    :get-row-id="r => r.key"
    :virtualize="{ estimateSize: ROW }"
    :watch-options="{ deep: false }"
    empty="Nothing is called that."
    sticky
  >
    <template #title-cell="{ row: { original: s } }">
      <UButton
        variant="link"
        class="specimen"
        :aria-pressed="s.key === picked"
        :data-specimen="s.key"
        @click="emit('pick', s.key)"
      >
        <i :style="{ background: tints.get(s.key) }" />
        <b>{{ s.title }}</b>
      </UButton>
    </template>
    <template #class-cell="{ row }">{{ row.original.class.split(',')[0] }}</template>
    <template #uses-cell="{ row }">
      <span class="cut" :title="projectsOf(row.original.key)">{{ projectsOf(row.original.key) }}</span>
    </template>
    <template #source-cell="{ row }">
      <span class="cut small" :title="row.original.source">{{ row.original.source }}</span>
    </template>
  </UTable>
</template>

<style>
.specimens table {
  table-layout: fixed;
}
.specimens th:nth-child(1) {
  width: 33%;
}
.specimens th:nth-child(2) {
  width: 70px;
}
.specimens th:nth-child(3) {
  width: 22%;
}
.specimens tr {
  position: relative;
}
.b.t.specimen {
  display: flex;
  width: 100%;
  align-items: center;
  gap: 9px;
  min-height: 24px;
  justify-content: flex-start;
}
/* all of its row */
.specimen::after {
  content: '';
  position: absolute;
  inset: 0;
}
.specimen b {
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.specimen i {
  width: 20px;
  height: 20px;
  border: 1px solid var(--ink);
  flex: none;
}
.specimens .cut {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
