<script setup lang="ts">
import type { ProjectListEvents, ProjectListProps } from '../../projects/list-events'
import { openEarly } from '../../renderer/early'
import { when } from '../../words/when'

/** Projects as cards. */
defineProps<ProjectListProps>()
const emit = defineEmits<ProjectListEvents>()
</script>

<template>
  <ul aria-label="Projects">
    <li v-for="p in projects" :key="p.id" :data-project="p.id">
      <NuxtLink :to="`/bench/${p.id}`" class="card" @pointerenter="openEarly(p.id)" @focus="openEarly(p.id)">
        <ProjectPicture :project="p" />
        <span class="name" :title="p.name">{{ p.name }}</span>
        <span class="small">v{{ p.head }} · {{ when(p.updated) }}</span>
      </NuxtLink>
      <RenameForm
        v-if="renaming === p.id"
        :project="p"
        @rename="emit('rename', p, $event)"
        @leave="emit('leave')"
      />
      <ProjectTools
        v-else
        class="tools"
        :project="p"
        @rename="emit('rename', p)"
        @copy="emit('copy', p)"
        @remove="emit('remove', p)"
      />
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 16px;
}
li {
  position: relative;
}
.card {
  display: grid;
  border: 1px solid var(--rule);
  background: var(--raised);
  padding: 8px;
  gap: 2px;
}
.card:hover {
  border-color: var(--ink);
}
.card > .pic {
  margin-bottom: 4px;
}
.name {
  font-weight: 600;
  font-size: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* beside the date, while the pointer or the focus is on the card */
.tools {
  position: absolute;
  right: 6px;
  bottom: 6px;
  background: var(--raised);
  opacity: 0;
}
li:hover .tools,
li:focus-within .tools {
  opacity: 1;
}
</style>
