<script setup lang="ts">
import type { ProjectSummary } from '../../shared/api'
import { MODEL } from '../../core/formats/models/ending'
import { PIECE_NAMES, type PieceName } from '../../core/mesh/pieces/names'
import type { ModelSource } from '../files/new-project'
import { arrangeProjects, keepArrangement, readArrangement, SORTS } from '../projects/arrangement'
import { useProjects } from '../projects/useProjects'
import { CALM } from '../input/calm'
import { openEarly, prepareBench } from '../renderer/early'

const { projects, failed, load, rename, copy, remove } = useProjects()
const busy = ref('')
const picking = ref<HTMLInputElement>()
const over = ref(false)
const say = useSay()
const reading = load()
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
  if (name !== undefined) await make(name, m => m.fromFiles(files))
}
/** Test pieces to begin with, and what each is for. */
const pieces = Object.entries(PIECE_NAMES).map(([name, purpose]) => ({
  label: name,
  description: purpose,
  onSelect: () => void make(name, m => m.fromPiece(name as PieceName)),
}))
async function make(
  name: string,
  source: (m: typeof import('../files/new-project')) => ModelSource,
): Promise<void> {
  if (busy.value) return
  busy.value = `Reading ${name}`
  stopping = new AbortController()
  const making = await import('../files/new-project')
  try {
    const { state, brought, lost } = await making.sceneFor(source(making), {
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
    say.report(`${name} is a project now`, brought, lost)
    await navigateTo(`/bench/${project.id}`)
  } catch (e) {
    if (e instanceof making.GivenUp) say.note(`${name} was left as it is`, 'No project was made.')
    else say.fault(`${name} did not become a project`, messageOf(e))
  } finally {
    busy.value = ''
    asking.value = null
    progress.value = 0
  }
}
const search = ref('')
const arrangement = reactive(readArrangement())
watch(arrangement, keepArrangement)
const sorts = [...SORTS]
const found = computed(() => arrangeProjects(projects.value ?? [], search.value, arrangement.sort))
const renaming = ref<string | null>(null)
/** Asks for a name, or gives one. */
async function nameIt(p: ProjectSummary, name?: string): Promise<void> {
  renaming.value = name === undefined ? p.id : null
  if (name !== undefined) await rename(p, name)
}
/** Menu of the project under the pointer. */
function menuOf(at: Element) {
  const row =
    at.closest<HTMLElement>('[data-project]') ?? at.closest('tr')?.querySelector<HTMLElement>('[data-project]')
  const p = projects.value?.find(x => x.id === row?.dataset.project)
  if (!p) return []
  return [
    { label: 'Open', onSelect: () => void navigateTo(`/bench/${p.id}`) },
    { label: 'Rename', onSelect: () => void nameIt(p) },
    { label: 'Duplicate', onSelect: () => void copy(p) },
    { label: 'Delete', onSelect: () => void remove(p) },
  ]
}
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
        <UInput
          v-if="projects?.length"
          v-model="search"
          class="search"
          type="search"
          placeholder="Search projects"
          aria-label="Search projects"
        />
        <template v-if="projects?.length">
          <USelect v-model="arrangement.sort" aria-label="Order of the projects" :items="sorts" :content="CALM" />
          <span class="as" role="group" aria-label="How projects are shown">
            <UButton
              icon="i-lucide-layout-grid"
              aria-label="As cards"
              title="As cards"
              :class="{ on: arrangement.as === 'grid' }"
              :aria-pressed="arrangement.as === 'grid'"
              @click="void (arrangement.as = 'grid')"
            />
            <UButton
              icon="i-lucide-rows-3"
              aria-label="As a table"
              title="As a table"
              :class="{ on: arrangement.as === 'list' }"
              :aria-pressed="arrangement.as === 'list'"
              @click="void (arrangement.as = 'list')"
            />
          </span>
        </template>
        <span class="new">
          <UButton icon="i-lucide-plus" @click="picking?.click()">New project from a model</UButton>
          <UDropdownMenu :items="pieces" :modal="false" :content="{ align: 'end', sideOffset: 2 }">
            <UButton>from a test piece</UButton>
          </UDropdownMenu>
        </span>
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
      <p v-if="busy" class="busy" role="status">
        <UProgress :model-value="progress" :max="1" :get-value-label="() => 'Import'" /> {{ busy }} …
        <UButton @click="stopping?.abort()">Stop</UButton>
      </p>
      <UnitQuestion v-if="asking" :extent="asking.extent" @answer="asking.answer($event)" />
      <p v-if="failed" role="alert">
        The projects could not be read: {{ failed }} <UButton @click="load">Try again</UButton>
      </p>
      <div v-else-if="projects && !projects.length" class="empty">
        <b>There is no project yet.</b>
        <p>
          Drop a .glb here, or a .gltf or .obj with the files that it names. Its named parts become the parts of
          the project, its materials networks.
        </p>
        <UButton @click="picking?.click()">Choose a model …</UButton>
        <p>
          Without a model, begin with a test piece: a ball, a cloth, cubes, a bowl, a prism, a disc, ground, a
          room.
        </p>
      </div>
      <p v-else-if="projects && !found.length" role="status">No project is called like “{{ search }}”.</p>
      <PaneMenu v-if="found.length" :of="menuOf">
        <div class="all">
          <ProjectGrid
            v-if="arrangement.as === 'grid'"
            :projects="found"
            :renaming="renaming"
            @rename="nameIt"
            @leave="renaming = null"
            @copy="copy"
            @remove="remove"
          />
          <LazyProjectTable
            v-else
            :projects="found"
            :renaming="renaming"
            @rename="nameIt"
            @leave="renaming = null"
            @copy="copy"
            @remove="remove"
          />
          <p v-if="projects?.length" class="small">
            Drop a .glb, or a .gltf or .obj with the files it names, anywhere on this page for a new project.
          </p>
        </div>
      </PaneMenu>
    </main>
  </div>
</template>

<style scoped>
main {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
main.over {
  outline: 2px solid var(--accent);
  outline-offset: -6px;
}
.title {
  display: flex;
  align-items: center;
  gap: 8px;
  padding-bottom: 12px;
}
.title h1 {
  margin: 0 10px 0 0;
}
.search {
  width: 220px;
}
.as {
  display: flex;
}
.title .new {
  margin-left: auto;
  display: flex;
  gap: 6px;
}
.all {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
}
.empty {
  max-width: 520px;
  border: 1px dashed var(--rule);
  padding: 18px 20px;
}
.empty p {
  margin: 6px 0 10px;
}
.busy {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>
