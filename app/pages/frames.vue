<script setup lang="ts">
import type { Frame, FrameList } from '../../shared/api'
import { saveFile } from '../files/save-file'

/** The queue of frames: what waits, what is computed, what is done. */
const list = shallowRef<FrameList | null>(null)
const failed = ref('')
const say = useSay()
/** How often the queue is asked, ms. */
const PACE = 1500
let timer: ReturnType<typeof setTimeout> | undefined
let here = true

async function load(): Promise<void> {
  try {
    list.value = await api.frames()
    failed.value = ''
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
const underWay = (f: Frame) => f.status === 'queued' || f.status === 'running'
const waiting = computed(() => list.value?.frames.some(underWay) && list.value.workers === 0)
const WORDS: Record<Frame['status'], string> = {
  queued: 'waits',
  running: 'is computed',
  done: 'done',
  failed: 'failed',
  stopped: 'stopped',
}
const took = (s: number) => (s >= 60 ? `${Math.floor(s / 60)} min ${Math.round(s % 60)} s` : `${s.toFixed(1)} s`)
const left = (f: Frame) =>
  f.passes > 0 ? `, about ${took((f.seconds / f.passes) * (f.settings.passes - f.passes))} left` : ''
</script>

<template>
  <div class="u-page">
    <TopBar at="frames" />
    <main>
      <h1>Frames</h1>
      <p v-if="failed" role="alert">
        The queue could not be read: {{ failed }} <UButton @click="load">Try again</UButton>
      </p>
      <p v-else-if="waiting" role="status" data-testid="no-worker">
        No worker is running: what waits begins when one is started with <code>./wavelume worker</code>.
      </p>
      <p v-if="list && !list.frames.length">
        No frame was asked for yet: on the bench, Export, “Frame, full quality”.
      </p>
      <ul>
        <li v-for="f in list?.frames" :key="f.id" :data-testid="`frame-${f.status}`">
          <span class="pic">
            <img v-if="f.thumbnail" :src="`/api/assets/${f.thumbnail}`" alt="" />
          </span>
          <div class="says">
            <b class="name" :title="f.name">{{ f.name }}</b>
            <span class="small">
              <NuxtLink :to="`/bench/${f.project}`">{{ f.projectName }}</NuxtLink> · {{ f.settings.width }} ×
              {{ f.settings.height }} · {{ f.lights
              }}{{ f.settings.aov.length ? ` · with ${f.settings.aov.join(', ')}` : '' }}</span
            >
            <span v-if="underWay(f)" class="run">
              <progress :value="f.passes" :max="f.settings.passes" :aria-label="`Passes of ${f.name}`" />
              {{ WORDS[f.status] }}: {{ f.passes }} of {{ f.settings.passes }} passes{{
                f.status === 'running' ? left(f) : ''
              }}</span
            >
            <span v-else
              >{{ WORDS[f.status]
              }}<template v-if="f.status === 'done'">
                after {{ took(f.seconds) }}, {{ f.settings.passes }} passes</template
              >
              <template v-if="f.message">: {{ f.message }}</template>
            </span>
          </div>
          <div class="tools">
            <UButton
              v-if="f.picture"
              :aria-label="`Keep ${f.name} as a proof`"
              title="Among the proofs of its project, to wipe it against the live picture"
              @click="keep(f)"
            >
              Keep
            </UButton>
            <UButton v-if="f.picture" :aria-label="`Save ${f.name} as EXR`" @click="save(f)">EXR</UButton>
            <UButton
              v-if="underWay(f)"
              :aria-label="`Stop ${f.name}`"
              @click="work(`${f.name} was not stopped`, () => api.stopFrame(f.id))"
            >
              Stop
            </UButton>
            <UButton
              v-else
              :aria-label="`Take ${f.name} off the list`"
              @click="work(`${f.name} was not taken off`, () => api.removeFrame(f.id))"
            >
              Take off
            </UButton>
          </div>
        </li>
      </ul>
    </main>
  </div>
</template>

<style scoped>
ul {
  display: grid;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr) auto;
  gap: 14px;
  align-items: center;
  border: 1px solid var(--rule);
  background: var(--raised);
  padding: 8px;
}
.pic {
  aspect-ratio: 8 / 5;
  background: var(--ground);
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: contain;
  display: block;
}
.says {
  display: grid;
  gap: 3px;
}
.says > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  font-size: 15px;
}
.run {
  display: flex;
  gap: 10px;
  align-items: center;
}
.tools {
  display: flex;
  gap: 4px;
}
progress {
  width: 180px;
  flex: none;
}
a {
  text-decoration: underline;
}
</style>
