<script setup lang="ts">
import { FRAME_AOVS } from '../../shared/api'
import { CALM } from '../input/calm'
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
const SIZES = computed(() =>
  [
    ...[
      { k: 0.5, says: 'half the view' },
      { k: 1, says: 'as the view' },
      { k: 2, says: 'twice the view' },
    ].map(({ k, says }) => ({ says, width: Math.round(props.width * k), height: Math.round(props.height * k) })),
    { says: 'HD', width: 1920, height: 1080 },
    { says: '4K', width: 3840, height: 2160 },
  ].map((s, value) => ({ ...s, value, label: `${s.width} × ${s.height}, ${s.says}` })),
)
const TURNS = [
  { value: 'nothing', label: 'nothing' },
  { value: 'camera', label: 'the camera round the model' },
  { value: 'model', label: 'the model before camera and lights' },
  { value: 'lights', label: 'the lights' },
]
const LAYERS = FRAME_AOVS.map(value => ({ value, label: SAYS[value] }))
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
  <PlainDialog
    title="Compute a frame"
    description="The picture as it is framed now, computed by workers"
    place="frame-dialog"
    testid="frame-dialog"
    @close="emit('close')"
  >
    <form @submit.prevent="send" @keydown="e => e.key === 'Escape' || e.stopPropagation()">
      <label>Name <UInput v-model="name" autofocus maxlength="120" required /> </label>
      <label
        >Size
        <USelect v-model="size" :items="SIZES" :content="CALM" />
      </label>
      <label>Passes <UInput v-model.number="passes" type="number" min="1" max="65536" required /> </label>
      <label
        >Frames
        <UInput
          v-model.number="count"
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
          <USelect v-model="turning" :items="TURNS" :content="CALM" />
        </label>
        <label v-if="turning !== 'nothing'"
          >Degrees
          <UInput v-model.number="degrees" type="number" min="-3600" max="3600" step="any" required />
        </label>
      </template>
      <label
        >{{ count > 1 ? 'From' : 'Time' }}
        <span class="unit">
          <UInput
            v-model.number="from"
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
          <UInput v-model.number="to" type="number" step="any" required aria-label="Time of the last frame" />
          s</span
        >
      </label>
      <UCheckboxGroup v-model="aov" legend="Kept in the EXR beside the picture" :items="LAYERS" />
      <p class="small">
        The same bits as <code>./wavelume render</code> of this scene. Not denoised, not exposed.
      </p>
      <div class="do">
        <UButton type="submit" :disabled="busy">
          {{ busy && count > 1 ? `${sent} of ${count}` : 'Put into the queue' }}
        </UButton>
        <UButton @click="emit('close')">Not now</UButton>
      </div>
    </form>
  </PlainDialog>
</template>

<style>
/* beside the picture, which stays draggable */
.frame-dialog {
  z-index: 40;
  left: auto;
  right: 12px;
  top: 44px;
  translate: none;
  width: 360px;
  padding: 0 0 10px;
  display: grid;
  gap: 6px;
}
.frame-dialog form {
  display: grid;
  gap: 6px;
}
.frame-dialog form > label {
  display: grid;
  grid-template-columns: 70px 1fr;
  align-items: center;
  padding: 0 12px;
}
.frame-dialog .unit {
  display: flex;
  align-items: center;
  gap: 6px;
}
.frame-dialog .unit > :first-child {
  flex: 1;
  min-width: 0;
}
.frame-dialog .do {
  display: flex;
  gap: 8px;
  padding: 0 12px;
}
.frame-dialog p {
  margin: 0;
  padding: 0 12px;
}
</style>
