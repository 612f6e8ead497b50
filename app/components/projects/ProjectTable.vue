<script setup lang="ts">
import type { TableColumn } from '@nuxt/ui'
import type { ProjectSummary } from '../../../shared/api'
import type { ProjectListEvents, ProjectListProps } from '../../projects/list-events'
import { openEarly } from '../../renderer/early'
import { when } from '../../words/when'

/** Projects as a table. */
defineProps<ProjectListProps>()
const emit = defineEmits<ProjectListEvents>()
const columns: TableColumn<ProjectSummary>[] = [
  { id: 'picture', header: '' },
  { id: 'name', header: 'Name' },
  { id: 'version', header: 'Version' },
  { id: 'updated', header: 'Last saved' },
  { id: 'created', header: 'Made' },
  { id: 'tools', header: '' },
]
/** Height of a row, pixels. */
const ROW = 50
const meta = { class: { tr: 'project-row' } }
</script>

<template>
  <UTable
    class="projects"
    caption="Projects"
    :data="projects as ProjectSummary[]"
    :columns="columns"
    :meta="meta"
    :get-row-id="p => p.id"
    :virtualize="{ estimateSize: ROW }"
    :watch-options="{ deep: false }"
    sticky
  >
    <template #picture-header><span class="sr-only">Picture</span></template>
    <template #picture-cell="{ row }"><ProjectPicture class="small-pic" :project="row.original" /></template>
    <template #name-cell="{ row: { original: p } }">
      <RenameForm
        v-if="renaming === p.id"
        :project="p"
        @rename="emit('rename', p, $event)"
        @leave="emit('leave')"
      />
      <NuxtLink
        v-else
        class="open"
        :to="`/bench/${p.id}`"
        :title="p.name"
        :data-project="p.id"
        @pointerenter="openEarly(p.id)"
        @focus="openEarly(p.id)"
      >
        {{ p.name }}
      </NuxtLink>
    </template>
    <template #version-cell="{ row }">v{{ row.original.head }}</template>
    <template #updated-cell="{ row }">{{ when(row.original.updated) }}</template>
    <template #created-cell="{ row }">{{ when(row.original.created) }}</template>
    <template #tools-header><span class="sr-only">Tools</span></template>
    <template #tools-cell="{ row: { original: p } }">
      <ProjectTools
        class="row-tools"
        :project="p"
        @rename="emit('rename', p)"
        @copy="emit('copy', p)"
        @remove="emit('remove', p)"
      />
    </template>
  </UTable>
</template>

<style>
.projects {
  flex: 1;
  min-height: 0;
}
.projects .small-pic {
  width: 72px;
}
.projects .small-pic .said,
.projects .small-pic .progress-part {
  display: none;
}
.projects .open {
  display: block;
  max-width: 40vw;
  overflow: hidden;
  text-overflow: ellipsis;
  font-weight: 600;
  line-height: 28px;
}
.projects .open:hover {
  text-decoration: underline;
}
.projects td:first-child {
  width: 88px;
}
.projects td:last-child {
  width: 88px;
}
.project-row .row-tools {
  opacity: 0;
}
.project-row:hover .row-tools,
.project-row:focus-within .row-tools {
  opacity: 1;
}
</style>
