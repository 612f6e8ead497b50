<script setup lang="ts">
import type { VersionSummary } from '../../shared/api'

/** Versions of the open project: save with a note, look at what was saved, take one back. */
const emit = defineEmits<{ save: [note: string] }>()
const bench = useBench()
const say = useSay()
const open = ref(false)
const note = ref('')
/** Also names what opens. */
const says = computed(() => `v${bench.project?.head} ${bench.dirty ? 'changed' : 'saved'}`)
const versions = shallowRef<VersionSummary[] | null>(null)

watch(open, on => void (on && read()))
async function read(): Promise<void> {
  if (!bench.project) return
  versions.value = null
  try {
    versions.value = await api.versions(bench.project.id)
  } catch (e) {
    open.value = false
    say.fault('The versions could not be read', messageOf(e))
  }
}
function save(): void {
  emit('save', note.value.trim())
  note.value = ''
  open.value = false
}
/** Takes a version back onto the bench: all of it, or the material at hand alone. One step that can be undone. */
async function restore(number: number, whole: boolean): Promise<void> {
  open.value = false
  const p = bench.project
  const key = bench.materialKey
  if (!p) return
  try {
    const { state } = await api.version(p.id, number)
    if (whole) {
      bench.change(`Restore v${number}`, state)
      return
    }
    const material = key !== null ? state.materials[key] : undefined
    if (!material || key === null || !bench.state) {
      say.note(`v${number} has no material ${key ?? ''}`)
      return
    }
    bench.change(`Restore ${key} of v${number}`, {
      ...bench.state,
      materials: { ...bench.state.materials, [key]: material },
    })
  } catch (e) {
    say.fault(`v${number} was not restored`, messageOf(e))
  }
}
</script>

<template>
  <UPopover v-model:open="open" :content="{ align: 'end', sideOffset: 2 }">
    <UButton
      variant="ghost"
      class="state"
      aria-live="polite"
      title="Versions of this project"
      :aria-label="`Versions: ${says}`"
      data-testid="save-state"
    >
      {{ says }}
    </UButton>
    <template #content>
      <div class="versions found">
        <form class="new" @submit.prevent="save">
          <UInput
            v-model="note"
            class="note-field"
            maxlength="500"
            placeholder="Note"
            aria-label="Note for the version"
          />
          <UButton type="submit">Save a version</UButton>
        </form>
        <p v-if="!versions" class="small pad" role="status">Reading the versions …</p>
        <LazyVersionTable
          v-else
          :versions="versions"
          :material="bench.materialKey"
          @restore="(number, whole) => restore(number, whole)"
        />
      </div>
    </template>
  </UPopover>
</template>

<style scoped>
.b.q.state {
  white-space: nowrap;
  min-width: 76px;
  min-height: 24px;
  text-align: right;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.versions {
  width: 440px;
  display: flex;
  flex-direction: column;
  max-height: 60vh;
}
.new {
  display: flex;
  gap: 4px;
  padding: 6px 8px;
  border-bottom: 1px solid var(--rule);
}
.note-field {
  flex: 1;
  min-width: 0;
}
</style>
