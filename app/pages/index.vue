<script setup lang="ts">
import type { ProjectSummary } from '../../shared/api'
import { MODEL } from '../../core/formats/models/ending'
import { openEarly, prepareBench } from '../renderer/early'

const projects = shallowRef<ProjectSummary[] | null>(null)
const busy = ref('')
const failed = ref('')
const picking = ref<HTMLInputElement>()
const over = ref(false)
const say = useSay()

async function load(): Promise<void> {
  failed.value = ''
  try {
    projects.value = await api.projects()
  } catch (e) {
    failed.value = messageOf(e)
  }
}
const reading = load()
/** How often projects without a picture are looked for again, ms: those of the demo are rendered meanwhile. */
const LOOK = 4000
const looking = setInterval(() => {
  const wanting = projects.value?.some(p => !p.thumbnail)
  if (wanting && !busy.value && renaming.value === null && document.visibilityState === 'visible') void load()
}, LOOK)
onBeforeUnmount(() => clearInterval(looking))
// Most come back to what they worked on last: all is ready for it before the click. Reading the model takes
// longest, so it begins first.
onNuxtReady(async () => {
  await reading
  if (here && projects.value?.[0]) openEarly(projects.value[0].id)
  await preloadRouteComponents('/bench/next')
  if (here) void prepareBench()
})
/** Whether the list still stands: a bench that was opened meanwhile has its workers. */
let here = true
onBeforeUnmount(() => {
  here = false
})

/** Files that a new project is made of, with what is asked on the way. */
const asking = shallowRef<{
  extent: readonly [number, number, number]
  answer(unit: number | undefined): void
} | null>(null)
const progress = ref(0)
let stopping: AbortController | undefined
async function create(list: FileList | null | undefined): Promise<void> {
  over.value = false
  const files = [...(list ?? [])]
  const name = (files.find(f => MODEL.test(f.name)) ?? files[0])?.name
  if (name === undefined || busy.value) return
  busy.value = `Reading ${name}`
  stopping = new AbortController()
  const { GivenUp, sceneFor } = await import('../files/new-project')
  try {
    const { state, report } = await sceneFor(files, {
      progress: (what, step, of) => {
        busy.value = `${what}, step ${step} of ${of}`
        progress.value = (step - 1) / of
      },
      unit: extent =>
        new Promise(answer => {
          asking.value = {
            extent,
            answer: u => {
              asking.value = null
              answer(u)
            },
          }
        }),
      signal: stopping.signal,
    })
    const project = await api.create(name.replace(MODEL, '').slice(0, 120) || 'Untitled', state)
    say.note(`${name} is a project now`, report.slice(0, 6).join(' · '))
    await navigateTo(`/bench/${project.id}`)
  } catch (e) {
    if (e instanceof GivenUp) say.note(`${name} was left as it is`, 'No project was made.')
    else say.fault(`${name} did not become a project`, messageOf(e))
  } finally {
    busy.value = ''
    asking.value = null
    progress.value = 0
  }
}
const search = ref('')
const renaming = ref<string | null>(null)
const found = computed(
  () => projects.value?.filter(p => p.name.toLowerCase().includes(search.value.trim().toLowerCase())) ?? [],
)
async function work(what: string, does: () => Promise<unknown>): Promise<boolean> {
  try {
    await does()
    await load()
    return true
  } catch (e) {
    say.fault(what, messageOf(e))
    return false
  }
}
async function rename(p: ProjectSummary, name: string): Promise<void> {
  renaming.value = null
  if (name.trim() && name.trim() !== p.name)
    await work(`${p.name} was not renamed`, () => api.rename(p.id, name.trim()))
}
async function remove(p: ProjectSummary): Promise<void> {
  if (await work(`${p.name} was not deleted`, () => api.remove(p.id)))
    say.note(`${p.name} is deleted`, undefined, {
      label: 'Bring back',
      run: () => void work(`${p.name} was not brought back`, () => api.bringBack(p.id)),
    })
}
const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="u-page">
    <TopBar />
    <main
      :class="{ over }"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="create($event.dataTransfer?.files)"
    >
      <div class="title">
        <h1>Projects</h1>
        <UButton @click="picking?.click()">New project from a model</UButton>
        <input
          ref="picking"
          type="file"
          accept=".glb,.gltf,.bin,.obj,.mtl,.ply,.png,.jpg,.jpeg"
          multiple
          hidden
          data-testid="new-project"
          @change="
            create(($event.target as HTMLInputElement).files)
            ;($event.target as HTMLInputElement).value = ''
          "
        />
      </div>
      <p v-if="projects && projects.length > 1">
        <UInput
          v-model="search"
          class="search"
          type="search"
          placeholder="Search projects"
          aria-label="Search projects"
        />
      </p>
      <p v-if="projects?.length && !found.length" role="status">No project is called like “{{ search }}”.</p>
      <p class="small">
        Or drop a .glb, or a .gltf or .obj with the files it names, anywhere on this page. Its named parts become
        the parts of the project, its materials networks.
      </p>
      <p v-if="busy" class="busy" role="status">
        <progress :value="progress" max="1" aria-label="Import" /> {{ busy }} …
        <UButton @click="stopping?.abort()">Stop</UButton>
      </p>
      <UnitQuestion v-if="asking" :extent="asking.extent" @answer="asking.answer($event)" />
      <p v-if="failed" role="alert">
        The projects could not be read: {{ failed }} <UButton @click="load">Try again</UButton>
      </p>
      <p v-else-if="projects && !projects.length">There is no project yet.</p>
      <ul>
        <li v-for="p in found" :key="p.id">
          <NuxtLink :to="`/bench/${p.id}`" class="card" @pointerenter="openEarly(p.id)" @focus="openEarly(p.id)">
            <span class="pic">
              <img v-if="p.thumbnail" :src="`/api/assets/${p.thumbnail}`" alt="" />
            </span>
            <span class="name" :title="p.name">{{ p.name }}</span>
            <span class="small">v{{ p.head }} · {{ when(p.updated) }}</span>
          </NuxtLink>
          <form
            v-if="renaming === p.id"
            class="tools"
            @submit.prevent="rename(p, ($event.target as HTMLFormElement).project.value)"
          >
            <UInput
              name="project"
              :default-value="p.name"
              :aria-label="`New name of ${p.name}`"
              maxlength="120"
              autofocus
              @keydown.esc="renaming = null"
            />
            <UButton type="submit">Rename</UButton>
          </form>
          <div v-else class="tools">
            <UButton :aria-label="`Rename ${p.name}`" @click="void (renaming = p.id)">Rename</UButton>
            <UButton
              :aria-label="`Duplicate ${p.name}`"
              @click="void work(`${p.name} was not duplicated`, () => api.copy(p.id))"
            >
              Duplicate
            </UButton>
            <UButton :aria-label="`Delete ${p.name}`" @click="remove(p)">Delete</UButton>
          </div>
        </li>
      </ul>
    </main>
  </div>
</template>

<style scoped>
main.over {
  outline: 2px solid var(--accent);
  outline-offset: -6px;
}
.title {
  display: flex;
  align-items: center;
  gap: 16px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 16px;
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
.pic {
  aspect-ratio: 8 / 5;
  background: var(--ground);
  display: block;
  margin-bottom: 4px;
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.name {
  font-weight: 600;
  font-size: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tools {
  display: flex;
  gap: 4px;
  padding-top: 4px;
}
.tools input {
  flex: 1;
  min-width: 0;
}
.search {
  width: 260px;
}
.busy {
  display: flex;
  align-items: center;
  gap: 10px;
}
progress {
  width: 160px;
}
</style>
