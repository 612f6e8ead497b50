<script setup lang="ts">
import { ACCEPTED_PICTURES } from '../../core/formats/pictures/ending'
import { saveFile } from '../files/save-file'
import { useProofMenu } from '../menus/useProofMenu'

const proofs = useProofs()
const bench = useBench()
const say = useSay()
const emit = defineEmits<{ keep: []; wipe: []; difference: [] }>()
const picking = ref<HTMLInputElement>()

async function pin(files: FileList | null | undefined): Promise<void> {
  for (const f of files ?? []) {
    try {
      await proofs.pin(f)
    } catch (e) {
      say.fault(`${f.name} was not pinned`, messageOf(e))
    }
  }
}
async function remove(id: string): Promise<void> {
  try {
    await proofs.remove(id)
  } catch (e) {
    say.fault('The proof was not removed', messageOf(e))
  }
}
const labelOf = (p: { kind: string; number: number; name: string }) =>
  p.kind === 'reference' ? `reference ${p.name}` : `proof ${p.number}`
/** The proof whose name and note are open. */
const open = ref<string | null>(null)
/** Its name and note as they are being written: an answer of the server must not take them from under the hand. */
const written = reactive({ name: '', note: '' })
const compareWith = (id: string): void => void (proofs.against = proofs.against === id ? null : id)
function toggle(p: { id: string; name: string; note: string }): void {
  open.value = open.value === p.id ? null : p.id
  written.name = p.name
  written.note = p.note
}
async function edit(id: string, change: Parameters<typeof proofs.edit>[1]): Promise<void> {
  try {
    await proofs.edit(id, change)
  } catch (e) {
    say.fault('This was not kept', messageOf(e))
  }
}
async function download(p: { id: string; name: string; number: number }, as: 'exr' | 'png'): Promise<void> {
  try {
    saveFile(
      `proof ${p.number} ${p.name}`.replace(/[^A-Za-z0-9._-]+/g, '_') + '.' + as,
      await proofs.file(p.id, as),
    )
  } catch (e) {
    say.fault('Nothing was exported', messageOf(e))
  }
}
const menuOf = useProofMenu({
  star: p => void edit(p.id, { star: !p.star }),
  restore,
  download: (p, as) => void download(p, as),
  compareWith,
  remove: id => void remove(id),
})
/** Takes the settings that made a proof back onto the bench, as one step. */
async function restore(id: string): Promise<void> {
  if (!bench.project) return
  try {
    bench.change('Restore from a proof', await api.proofState(bench.project.id, id))
  } catch (e) {
    say.fault('Nothing was restored', messageOf(e))
  }
}
</script>

<template>
  <PaneMenu :of="menuOf">
    <section
      class="pane"
      aria-label="Proofs"
      data-testid="proofs"
      @dragover.prevent
      @drop.prevent="pin($event.dataTransfer?.files)"
    >
      <div class="head">
        <b>Proofs</b>
        <span>{{ proofs.list.length }}</span>
      </div>
      <div class="tools">
        <UButton title="Keep the picture as a proof (K)" @click="emit('keep')">Keep</UButton>
        <UButton
          :disabled="!proofs.chosen"
          title="Wipe still A against the live picture (W)"
          @click="emit('wipe')"
        >
          Wipe
        </UButton>
        <UButton
          :disabled="!proofs.chosen"
          title="Difference of still A and B, or of A and the live picture (X)"
          @click="emit('difference')"
        >
          Differ
        </UButton>
        <UButton title="Pin a reference picture; or drop it here" @click="picking?.click()">Pin</UButton>
        <input
          ref="picking"
          type="file"
          :accept="ACCEPTED_PICTURES"
          hidden
          data-testid="pin"
          @change="pin(($event.target as HTMLInputElement).files)"
        />
      </div>
      <p v-if="proofs.busy" class="small pad">{{ proofs.busy }} …</p>
      <p v-else-if="!proofs.list.length" class="small pad">
        K keeps the picture as a proof. Drop reference pictures here.
      </p>
      <ul class="scroll">
        <li v-for="p in proofs.list" :key="p.id" :data-proof="p.id" :class="{ at: p.id === proofs.chosen }">
          <button
            class="pic"
            :aria-pressed="p.id === proofs.chosen"
            :title="`${p.name}, ${p.width} × ${p.height}`"
            @click="proofs.chosen = p.id"
          >
            <img
              v-if="p.thumbnail"
              :src="`/api/assets/${p.thumbnail}`"
              :alt="p.kind === 'reference' ? `Reference ${p.name}` : `Proof ${p.number}: ${p.name}`"
            />
          </button>
          <div class="under">
            <UButton
              variant="ghost"
              :aria-pressed="p.star"
              :title="p.star ? 'Starred' : 'Star'"
              :aria-label="`Star ${labelOf(p)}`"
              @click="edit(p.id, { star: !p.star })"
            >
              {{ p.star ? '★' : '☆' }}
            </UButton>
            <span :title="p.note || p.name"
              >{{ p.kind === 'reference' ? 'ref' : p.number
              }}{{ p.id === proofs.chosen ? ' · A' : p.id === proofs.against ? ' · B' : ''
              }}{{ p.note ? ' ✎' : '' }}</span
            >
            <UButton
              v-if="p.kind === 'proof'"
              variant="ghost"
              title="Restore what made it"
              :aria-label="`Restore proof ${p.number}`"
              @click="restore(p.id)"
            >
              <UIcon name="i-lucide-rotate-ccw" />
            </UButton>
            <UButton
              variant="ghost"
              title="Name, note, files"
              :aria-expanded="open === p.id"
              :aria-label="`More of ${labelOf(p)}`"
              @click="toggle(p)"
            >
              <UIcon name="i-lucide-ellipsis" />
            </UButton>
            <UButton variant="ghost" title="Remove" :aria-label="`Remove ${p.name}`" @click="remove(p.id)">
              <UIcon name="i-lucide-x" />
            </UButton>
          </div>
          <div v-if="open === p.id" class="more">
            <UInput
              v-model="written.name"
              maxlength="120"
              :aria-label="`Name of ${labelOf(p)}`"
              @change="edit(p.id, { name: written.name })"
            />
            <UTextarea
              v-model="written.note"
              :rows="2"
              maxlength="2000"
              placeholder="Note"
              :aria-label="`Note of ${labelOf(p)}`"
              @change="edit(p.id, { note: written.note })"
            />
            <div class="tools flat">
              <UButton
                title="What still A is compared with"
                :aria-pressed="proofs.against === p.id"
                @click="compareWith(p.id)"
              >
                As B
              </UButton>
              <UButton @click="download(p, 'exr')">EXR</UButton>
              <UButton @click="download(p, 'png')">PNG</UButton>
            </div>
          </div>
        </li>
      </ul>
    </section>
  </PaneMenu>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  padding: 0 7px 6px;
}
.tools .b {
  padding: 1px 5px;
  flex: 1;
}
.pad {
  padding: 2px 9px;
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 7px;
}
.pic {
  display: block;
  width: 100%;
  border: 1px solid var(--rule);
  background: var(--ground);
  padding: 0;
  aspect-ratio: 8 / 5;
}
.at .pic {
  outline: 2px solid var(--accent);
  outline-offset: 0;
  border-color: #fff;
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.more {
  display: grid;
  gap: 3px;
  padding-bottom: 6px;
}
.more input,
.more textarea {
  width: 100%;
  min-width: 0;
}
.flat {
  padding: 0;
}
.under {
  display: flex;
  align-items: center;
  font-size: 12px;
  min-height: 24px;
}
.under span {
  flex: 1;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
