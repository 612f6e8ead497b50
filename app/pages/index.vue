<script setup lang="ts">
import type { ProjectSummary } from '../../shared/api'
import { sceneFor } from '../renderer/new-project'

const projects = shallowRef<ProjectSummary[] | null>(null), busy = ref(''), failed = ref(''), picking = ref<HTMLInputElement>(), over = ref(false)
const say = useSay()

async function load(): Promise<void> {
  failed.value = ''
  try { projects.value = await api.projects() }
  catch (e) { failed.value = messageOf(e) }
}
onMounted(load)

async function create(files: FileList | null | undefined): Promise<void> {
  over.value = false
  const file = files?.[0]
  if (!file || busy.value) return
  busy.value = `Reading ${file.name}`
  try {
    const state = await sceneFor(file)
    const project = await api.create(file.name.replace(/\.glb$/i, '').slice(0, 120) || 'Untitled', state)
    await navigateTo(`/bench/${project.id}`)
  }
  catch (e) { say.fault(`${file.name} did not become a project`, messageOf(e)) }
  finally { busy.value = '' }
}
const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page">
    <TopBar />
    <main :class="{ over }" @dragover.prevent="over = true" @dragleave="over = false" @drop.prevent="create($event.dataTransfer?.files)">
      <div class="title"><h1>Projects</h1><button class="b" @click="picking?.click()">New project from a .glb</button>
        <input ref="picking" type="file" accept=".glb" hidden data-testid="new-project" @change="create(($event.target as HTMLInputElement).files)">
      </div>
      <p class="small">Or drop a .glb anywhere on this page. Its named parts become the parts of the project.</p>
      <p v-if="busy" role="status">{{ busy }} …</p>
      <p v-if="failed" role="alert">The projects could not be read: {{ failed }} <button class="b" @click="load">Try again</button></p>
      <p v-else-if="projects && !projects.length">There is no project yet.</p>
      <ul>
        <li v-for="p in projects" :key="p.id">
          <NuxtLink :to="`/bench/${p.id}`" class="card">
            <span class="pic"><img v-if="p.thumbnail" :src="`/api/assets/${p.thumbnail}`" alt=""></span>
            <span class="name">{{ p.name }}</span><span class="small">v{{ p.head }} · {{ when(p.updated) }}</span>
          </NuxtLink>
        </li>
      </ul>
    </main>
  </div>
</template>

<style scoped>
.page { height: 100vh; display: flex; flex-direction: column; }
main { flex: 1; overflow-y: auto; padding: 22px 28px; }
main.over { outline: 2px solid var(--accent); outline-offset: -6px; }
.title { display: flex; align-items: center; gap: 16px; }
h1 { font-size: 22px; font-weight: 600; margin: 0; }
ul { list-style: none; padding: 0; margin: 18px 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); gap: 16px; }
.card { display: grid; border: 1px solid var(--rule); background: var(--raised); padding: 8px; gap: 2px; }
.card:hover { border-color: var(--ink); }
.pic { aspect-ratio: 8 / 5; background: var(--ground); display: block; margin-bottom: 4px; }
.pic img { width: 100%; height: 100%; object-fit: cover; }
.name { font-weight: 600; font-size: 15px; }
</style>
