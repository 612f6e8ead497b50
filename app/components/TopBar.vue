<script setup lang="ts">
import FindOrAdd from './FindOrAdd.vue'
import VersionsMenu from './VersionsMenu.vue'

defineProps<{ bench?: boolean; /** The view that is open, where it is no bench. */ at?: 'frames' | 'library' }>()
/** Whether find-or-add is open. */
const finding = defineModel<boolean>('finding', { default: false })
const emit = defineEmits<{ save: [note: string]; export: [what: 'material' | 'exr' | 'png' | 'frame'] }>()
const store = useBench()
const { editing, begin, keep, close } = useRenaming('material', () => store.materialKey)
const exports = [
  { label: 'Material', description: '.mtlx, zip with images', onSelect: () => emit('export', 'material') },
  { label: 'Picture, linear', description: '.exr', onSelect: () => emit('export', 'exr') },
  { label: 'Picture as shown', description: '.png', onSelect: () => emit('export', 'png') },
  { label: 'Frame, full quality', description: 'by workers, .exr', onSelect: () => emit('export', 'frame') },
]
</script>

<template>
  <header class="bar">
    <span class="brand">WAVELUME</span>
    <nav aria-label="Views">
      <NuxtLink to="/" class="tab" :class="{ at: !bench && !at }">Projects</NuxtLink>
      <span v-if="bench" class="tab at" aria-current="page">Bench</span>
      <NuxtLink to="/library" class="tab" :class="{ at: at === 'library' }">Library</NuxtLink>
      <NuxtLink to="/frames" class="tab" :class="{ at: at === 'frames' }">Frames</NuxtLink>
      <ChecksMenu v-if="bench" />
    </nav>
    <template v-if="bench && store.project">
      <h1 class="path" :title="`${store.project.name} / ${store.part ?? ''} / ${store.materialKey ?? ''}`">
        <span class="project">{{ store.project.name }}</span>
        <span>{{ ` / ${store.part ?? '…'} / ` }}</span>
        <NameEditor
          v-if="editing"
          :text="store.materialKey ?? ''"
          label="Name of the material"
          @keep="keep"
          @close="close"
        />
        <b v-else title="Double-click: the material’s name" @dblclick="begin">{{ store.materialKey ?? '…' }}</b>
      </h1>
      <FindOrAdd v-model:open="finding" />
      <VersionsMenu @save="emit('save', $event)" />
      <UButton title="Save a version (Ctrl+S)" @click="emit('save', '')">Save</UButton>
      <UDropdownMenu :items="exports" :modal="false" :content="{ align: 'end', sideOffset: 2 }">
        <UButton>Export</UButton>
      </UDropdownMenu>
    </template>
  </header>
</template>

<style scoped>
.bar {
  height: 36px;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 10px;
  border-bottom: 1px solid var(--ink);
  background: var(--paper);
  flex: none;
}
.brand {
  font-weight: 600;
  letter-spacing: 0.22em;
  font-size: 12px;
  margin-right: 8px;
}
nav {
  display: flex;
}
.tab {
  padding: 3px 10px;
  border: 1px solid transparent;
}
.tab.at {
  border-color: var(--ink);
  background: var(--raised);
  font-weight: 600;
}
.path {
  flex: 1;
  display: flex;
  min-width: 0;
  margin: 0;
  font-size: inherit;
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* a long name of a project leaves part and material in sight */
.path > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: pre;
  flex: 0 1 auto;
}
.path > .project {
  flex-shrink: 8;
  min-width: 24px;
}
</style>
