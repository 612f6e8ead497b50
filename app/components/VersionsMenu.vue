<script setup lang="ts">
import type { VersionSummary } from '../../shared/api'

/** Versions of the open project: save with a note, look at what was saved, take one back. */
const emit = defineEmits<{ save: [note: string] }>()
const bench = useBench()
const say = useSay()
const open = ref(false)
const note = ref('')
const versions = shallowRef<VersionSummary[] | null>(null)
const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })

async function toggle(): Promise<void> {
  open.value = !open.value
  if (!open.value || !bench.project) return
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
  <div class="rel" @keydown.esc="open = false">
    <button
      class="state"
      aria-live="polite"
      aria-haspopup="dialog"
      :aria-expanded="open"
      title="Versions of this project"
      data-testid="save-state"
      @click="toggle"
    >
      v{{ bench.project?.head }} {{ bench.dirty ? 'changed' : 'saved' }}
    </button>
    <div v-if="open" class="u-menu right" role="dialog" aria-label="Versions">
      <form class="new" @submit.prevent="save">
        <input
          v-model="note"
          class="b"
          type="text"
          maxlength="500"
          placeholder="Note"
          aria-label="Note for the version"
        />
        <button class="b">Save a version</button>
      </form>
      <p v-if="!versions" class="small pad" role="status">Reading the versions …</p>
      <ul v-else>
        <li v-for="v in versions" :key="v.number">
          <span class="pic">
            <img v-if="v.thumbnail" :src="`/api/assets/${v.thumbnail}`" alt="" />
          </span>
          <div class="said">
            <b>v{{ v.number }}{{ v.aside ? ', beside the line' : '' }}</b>
            {{ ' ' }}
            <span class="small">{{ when(v.created) }}</span>
            <div class="small note" :title="v.note">{{ v.note }}</div>
            <span class="do">
              <button class="b" :aria-label="`Restore v${v.number}`" @click="restore(v.number, true)">
                Restore
              </button>
              <button
                class="b"
                :title="`Take ${bench.materialKey ?? 'the material'} back alone`"
                :aria-label="`Restore the material of v${v.number}`"
                @click="restore(v.number, false)"
              >
                Material only
              </button>
            </span>
          </div>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.rel {
  position: relative;
}
.state {
  white-space: nowrap;
  min-width: 76px;
  min-height: 24px;
  text-align: right;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.right {
  right: 0;
  top: 28px;
  width: 360px;
}
.new {
  display: flex;
  gap: 4px;
  padding: 6px 8px;
  border-bottom: 1px solid var(--rule);
}
.new input {
  flex: 1;
  min-width: 0;
}
.new button {
  width: auto;
  padding: 1px 8px;
}
.pic {
  width: 96px;
  height: 60px;
  background: var(--ground);
  flex: none;
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.said {
  flex: 1;
  min-width: 0;
}
.note {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
