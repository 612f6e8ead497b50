<script setup lang="ts">
import FindOrAdd from './FindOrAdd.vue'
import VersionsMenu from './VersionsMenu.vue'

defineProps<{ bench?: boolean; /** The view that is open, where it is no bench. */ at?: 'frames' | 'library' }>()
const emit = defineEmits<{ save: [note: string]; export: [what: 'material' | 'exr' | 'png' | 'frame'] }>()
const store = useBench()
const exporting = ref(false)
const pick = (what: 'material' | 'exr' | 'png' | 'frame') => {
  exporting.value = false
  emit('export', what)
}
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
        {{ store.project.name }} / {{ store.part ?? '…' }} / <b>{{ store.materialKey ?? '…' }}</b>
      </h1>
      <FindOrAdd />
      <VersionsMenu @save="emit('save', $event)" />
      <button class="b" title="Save a version (Ctrl+S)" @click="emit('save', '')">Save</button>
      <div class="rel">
        <button
          class="b"
          aria-haspopup="menu"
          :aria-expanded="exporting"
          @click="exporting = !exporting"
          @keydown.esc="exporting = false"
        >
          Export
        </button>
        <div v-if="exporting" class="u-menu right" role="menu">
          <button role="menuitem" @click="pick('material')">
            Material <span class="small">.mtlx, zip with images</span>
          </button>
          <button role="menuitem" @click="pick('exr')">Picture, linear <span class="small">.exr</span></button>
          <button role="menuitem" @click="pick('png')">Picture as shown <span class="small">.png</span></button>
          <button role="menuitem" @click="pick('frame')">
            Frame, full quality <span class="small">by workers, .exr</span>
          </button>
        </div>
      </div>
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
  margin: 0;
  font-size: inherit;
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.rel {
  position: relative;
}
.right {
  right: 0;
  top: 28px;
  min-width: 260px;
}
</style>
