<script setup lang="ts">
import type { Frame, FrameList } from '../../shared/api'
import { saveFile } from '../files/save-file'
import type { MenuItem } from '../menus/menu-item'
import { underWay } from '../words/frames'

/** The queue of frames: what waits, what is computed, what is done. */
const list = shallowRef<FrameList | null>(null)
const failed = ref('')
const say = useSay()
/** How often the queue is asked, ms. */
const PACE = 1500
let timer: ReturnType<typeof setTimeout> | undefined
let here = true
/** The project that was saved last: where a frame can be asked for. */
const newest = shallowRef<{ id: string; name: string } | null>(null)

async function load(): Promise<void> {
  try {
    list.value = await api.frames()
    failed.value = ''
    if (!list.value.frames.length && !newest.value) newest.value = (await api.projects())[0] ?? null
  } catch (e) {
    failed.value = messageOf(e)
  }
}
async function watchQueue(): Promise<void> {
  await load()
  if (here) timer = setTimeout(watchQueue, PACE)
}
onMounted(watchQueue)
onBeforeUnmount(() => {
  here = false
  clearTimeout(timer)
})

async function work(what: string, does: () => Promise<unknown>): Promise<void> {
  try {
    await does()
    await load()
  } catch (e) {
    say.fault(what, messageOf(e))
  }
}
async function save(f: Frame): Promise<void> {
  try {
    saveFile(`${f.name.replace(/[^A-Za-z0-9._-]+/g, '_') || 'frame'}.exr`, await api.asset(f.picture!))
  } catch (e) {
    say.fault(`${f.name} was not saved`, messageOf(e))
  }
}
async function keep(f: Frame): Promise<void> {
  try {
    const p = await api.frameAsProof(f.id)
    say.note(`${f.name} is proof ${p.number} of ${f.projectName}`)
  } catch (e) {
    say.fault(`${f.name} was not kept`, messageOf(e))
  }
}
const retry = (f: Frame) => work(`${f.name} did not begin anew`, () => api.retryFrame(f.id))
const stopAll = () => work('Not all were stopped', () => api.stopAllFrames())
const some = computed(() => (list.value?.frames ?? []).filter(underWay).length > 1)
const stop = (f: Frame) => work(`${f.name} was not stopped`, () => api.stopFrame(f.id))
const takeOff = (f: Frame) => work(`${f.name} was not taken off`, () => api.removeFrame(f.id))
const waiting = computed(() => list.value?.frames.some(underWay) && list.value.workers === 0)
/** Menu of the frame under the pointer. */
function menuOf(at: Element): MenuItem[] {
  const id = at.closest('tr')?.querySelector<HTMLElement>('[data-frame]')?.dataset.frame
  const f = list.value?.frames.find(x => x.id === id)
  if (!f) return []
  return [
    { label: `Open ${f.projectName}`, onSelect: () => void navigateTo(`/bench/${f.project}`) },
    ...(f.picture
      ? [
          { label: 'Keep as a proof', onSelect: () => void keep(f) },
          { label: 'Save as EXR', onSelect: () => void save(f) },
        ]
      : []),
    ...(f.status === 'failed' || f.status === 'stopped'
      ? [{ label: 'Begin anew', onSelect: () => void retry(f) }]
      : []),
    underWay(f)
      ? { label: 'Stop', onSelect: () => void stop(f) }
      : { label: 'Take off the list', onSelect: () => void takeOff(f) },
  ]
}
</script>

<template>
  <div class="u-page">
    <TopBar at="frames" />
    <main>
      <h1>
        Frames
        <UButton v-if="some" @click="stopAll">Stop all</UButton>
      </h1>
      <p v-if="failed" role="alert">
        The queue could not be read: {{ failed }} <UButton @click="load">Try again</UButton>
      </p>
      <p v-else-if="waiting" role="status" data-testid="no-worker">
        No worker is running: what waits begins when one is started with <code>./wavelume worker</code>.
      </p>
      <div v-if="list && !list.frames.length" class="empty">
        <b>No frame was asked for yet.</b>
        <p>
          A frame is the picture of the bench in any size, computed to full quality by workers while you go on:
          one, or a sequence in which the camera, the model or the lights turn. It can carry each light and each
          lobe apart.
        </p>
        <p>On the bench: Export, “Frame, full quality”, or Shift+F. What waits, runs and is done stands here.</p>
        <UButton v-if="newest" :to="`/bench/${newest.id}`">To {{ newest.name }}</UButton>
      </div>
      <PaneMenu v-else-if="list" :of="menuOf">
        <LazyFrameTable
          :frames="list.frames"
          @keep="keep"
          @save="save"
          @stop="stop"
          @retry="retry"
          @take-off="takeOff"
        />
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
h1 {
  padding-bottom: 12px;
  display: flex;
  align-items: center;
  gap: 14px;
}
.empty {
  max-width: 560px;
  border: 1px dashed var(--rule);
  padding: 18px 20px;
}
.empty p {
  margin: 6px 0 10px;
}
</style>
