<script setup lang="ts">
import { FRAME_AOVS } from '../../shared/api'
import { framesOf, type Turning } from '../camera/sequence'

/**
 * Asks for a frame: the picture as it is framed now, computed to full quality by workers while the artist goes on.
 */
const props = defineProps<{ width: number; height: number }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const say = useSay()
const SAYS: Record<(typeof FRAME_AOVS)[number], string> = {
  lights: 'each light apart',
  lobes: 'each lobe apart',
  albedo: 'albedo',
  normal: 'normal',
  position: 'position',
  depth: 'depth',
  part: 'part',
  material: 'material',
  cost: 'rays a pixel',
}
const SIZES = computed(() => [
  ...[
    { k: 0.5, label: 'half the view' },
    { k: 1, label: 'as the view' },
    { k: 2, label: 'twice the view' },
  ].map(({ k, label }) => ({ label, width: Math.round(props.width * k), height: Math.round(props.height * k) })),
  { label: 'HD', width: 1920, height: 1080 },
  { label: '4K', width: 3840, height: 2160 },
])
const name = ref(`${bench.project?.name ?? 'Frame'}, ${bench.scene?.lights ?? ''}`.slice(0, 120))
const size = ref(1)
const passes = ref(256)
const count = ref(1)
const turning = ref<Turning>('nothing')
const degrees = ref(360)
const from = ref(bench.scene?.time ?? 0)
const to = ref(bench.scene?.time ?? 0)
const aov = ref<(typeof FRAME_AOVS)[number][]>([])
const busy = ref(false)
const sent = ref(0)
/** Most frames of a sequence. */
const MOST = 720
const first = ref<HTMLInputElement>()
onMounted(() => first.value?.select())

async function send(): Promise<void> {
  const project = bench.project
  const camera = bench.camera
  const s = SIZES.value[size.value]!
  if (!project || !camera || busy.value) return
  busy.value = true
  try {
    const frames = framesOf(
      {
        frames: count.value,
        turning: turning.value,
        degrees: degrees.value,
        time: [from.value, count.value > 1 ? to.value : from.value],
      },
      name.value,
      camera,
      bench.stateToSave(),
    )
    for (const [i, f] of frames.entries()) {
      sent.value = i
      await api.addFrame(project.id, {
        name: f.name,
        settings: {
          width: s.width,
          height: s.height,
          passes: passes.value,
          seed: 0,
          aov: aov.value,
          camera: f.camera,
        },
        state: f.state,
      })
    }
    say.note(
      frames.length > 1
        ? `${name.value}: ${frames.length} frames are in the queue`
        : `${name.value} is in the queue`,
      'Frames shows how far it is; what you change from here on does not touch it.',
      { label: 'Frames', run: () => void navigateTo('/frames') },
    )
    emit('close')
  } catch (e) {
    say.fault('The frame was not taken in', messageOf(e))
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div
    class="frame"
    role="dialog"
    aria-label="Compute a frame"
    data-testid="frame-dialog"
    @keydown.esc.stop="emit('close')"
    @keydown.stop
  >
    <div class="head">
      <b>Compute a frame</b>
      <button type="button" class="q" aria-label="Close" @click="emit('close')">×</button>
    </div>
    <form @submit.prevent="send">
      <label>Name <input ref="first" v-model="name" class="b" maxlength="120" required /> </label>
      <label
        >Size
        <select v-model.number="size" class="b">
          <option v-for="(s, i) in SIZES" :key="i" :value="i">
            {{ s.width }} × {{ s.height }}, {{ s.label }}
          </option>
        </select>
      </label>
      <label>Passes <input v-model.number="passes" class="b" type="number" min="1" max="65536" required /> </label>
      <label
        >Frames
        <input
          v-model.number="count"
          class="b"
          type="number"
          min="1"
          :max="MOST"
          required
          title="More than one: a sequence, each frame numbered"
        />
      </label>
      <template v-if="count > 1">
        <label
          >Turn
          <select v-model="turning" class="b">
            <option value="nothing">nothing</option>
            <option value="camera">the camera round the model</option>
            <option value="model">the model before camera and lights</option>
            <option value="lights">the lights</option>
          </select>
        </label>
        <label v-if="turning !== 'nothing'"
          >Degrees
          <input v-model.number="degrees" class="b" type="number" min="-3600" max="3600" step="any" required />
        </label>
      </template>
      <label
        >{{ count > 1 ? 'From' : 'Time' }}
        <span class="unit">
          <input
            v-model.number="from"
            class="b"
            type="number"
            step="any"
            required
            :aria-label="count > 1 ? 'Time of the first frame' : 'Time'"
            title="For materials with a time node"
          />
          s</span
        >
      </label>
      <label v-if="count > 1"
        >To
        <span class="unit">
          <input
            v-model.number="to"
            class="b"
            type="number"
            step="any"
            required
            aria-label="Time of the last frame"
          />
          s</span
        >
      </label>
      <fieldset>
        <legend>Kept in the EXR beside the picture</legend>
        <label v-for="a in FRAME_AOVS" :key="a" class="check">
          <input v-model="aov" type="checkbox" :value="a" /> {{ SAYS[a] }}</label
        >
      </fieldset>
      <p class="small">
        The same bits as <code>./wavelume render</code> of this scene. Not denoised, not exposed.
      </p>
      <div class="do">
        <button class="b" :disabled="busy">
          {{ busy && count > 1 ? `${sent} of ${count}` : 'Put into the queue' }}
        </button>
        <button type="button" class="b" @click="emit('close')">Not now</button>
      </div>
    </form>
  </div>
</template>

<style scoped>
.frame {
  position: fixed;
  z-index: 40;
  right: 12px;
  top: 44px;
  width: 360px;
  background: var(--raised);
  border: 1px solid var(--ink);
  padding: 0 0 10px;
  display: grid;
  gap: 6px;
}
form {
  display: grid;
  gap: 6px;
}
form > label {
  display: grid;
  grid-template-columns: 70px 1fr;
  align-items: center;
  padding: 0 12px;
}
.unit {
  display: flex;
  align-items: center;
  gap: 6px;
}
.unit input {
  flex: 1;
  min-width: 0;
}
fieldset {
  border: 0;
  border-top: 1px solid var(--rule);
  margin: 4px 0 0;
  padding: 4px 12px;
  display: grid;
  grid-template-columns: 1fr 1fr;
}
legend {
  padding: 4px 6px 0 0;
  color: var(--soft);
  font-size: 12px;
}
.check {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
.do {
  display: flex;
  gap: 8px;
  padding: 0 12px;
}
p {
  margin: 0;
  padding: 0 12px;
}
</style>
