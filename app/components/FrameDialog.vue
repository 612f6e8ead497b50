<script setup lang="ts">
import { z } from 'zod'
import { FRAME_AOVS, frameSchema } from '../../shared/api'
import { sequenceSchema } from '../../shared/sequence'
import { CALM } from '../input/calm'

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
const { name, settings } = frameSchema.shape
const { frames, turning, degrees, time } = sequenceSchema.shape
const [seconds] = time.def.items
const schema = z.object({
  name,
  size: z.number(),
  passes: settings.shape.passes,
  count: frames,
  turning,
  degrees,
  from: seconds,
  to: seconds,
  aov: settings.shape.aov,
})
type Asked = z.output<typeof schema>
const asked = reactive<Asked>({
  name: `${bench.project?.name ?? 'Frame'}, ${bench.scene?.lights ?? ''}`.slice(0, 120),
  size: 1,
  passes: 256,
  count: 1,
  turning: 'nothing',
  degrees: 360,
  from: bench.scene?.time ?? 0,
  to: bench.scene?.time ?? 0,
  aov: [],
})
const busy = ref(false)

/** Keys of the form are none of the bench. */
function keep(e: KeyboardEvent): void {
  if (e.key !== 'Escape') e.stopPropagation()
}
async function send(a: Asked): Promise<void> {
  const project = bench.project
  const camera = bench.camera
  const s = SIZES.value[a.size]!
  if (!project || !camera || busy.value) return
  busy.value = true
  try {
    const { ids } = await api.addFrames(project.id, {
      name: a.name,
      settings: { width: s.width, height: s.height, passes: a.passes, seed: 0, aov: a.aov, camera },
      state: bench.stateToSave(),
      sequence: {
        frames: a.count,
        turning: a.turning,
        degrees: a.degrees,
        time: [a.from, a.count > 1 ? a.to : a.from],
      },
    })
    say.note(
      ids.length > 1 ? `${a.name}: ${ids.length} frames are in the queue` : `${a.name} is in the queue`,
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
    <UForm :schema="schema" :state="asked" @submit="send($event.data)" @keydown="keep">
      <UFormField name="name" label="Name"><UInput v-model="asked.name" autofocus maxlength="120" /></UFormField>
      <UFormField name="size" label="Size">
        <USelect v-model="asked.size" :items="SIZES" :content="CALM" />
      </UFormField>
      <UFormField name="passes" label="Samples"><UInput v-model.number="asked.passes" type="number" /></UFormField>
      <UFormField name="count" label="Frames">
        <UInput
          v-model.number="asked.count"
          type="number"
          title="More than one: a sequence, each frame numbered"
        />
      </UFormField>
      <template v-if="asked.count > 1">
        <UFormField name="turning" label="Turn">
          <USelect v-model="asked.turning" :items="TURNS" :content="CALM" />
        </UFormField>
        <UFormField v-if="asked.turning !== 'nothing'" name="degrees" label="By">
          <span class="unit">
            <UInput v-model.number="asked.degrees" type="number" step="any" aria-label="Degrees" />
            °</span
          >
        </UFormField>
      </template>
      <UFormField name="from" :label="asked.count > 1 ? 'From' : 'Time'">
        <span class="unit">
          <UInput
            v-model.number="asked.from"
            type="number"
            step="any"
            :aria-label="asked.count > 1 ? 'Time of the first frame' : 'Time'"
            title="For materials with a time node"
          />
          s</span
        >
      </UFormField>
      <UFormField v-if="asked.count > 1" name="to" label="To">
        <span class="unit">
          <UInput v-model.number="asked.to" type="number" step="any" aria-label="Time of the last frame" />
          s</span
        >
      </UFormField>
      <UCheckboxGroup v-model="asked.aov" legend="Kept in the EXR beside the picture" :items="LAYERS" />
      <p class="small">
        The same bits as <code>./wavelume render</code> of this scene. Not denoised, not exposed.
      </p>
      <div class="do">
        <UButton type="submit" :disabled="busy"> Put into the queue </UButton>
        <UButton @click="emit('close')">Not now</UButton>
      </div>
    </UForm>
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
.frame-dialog .form-field {
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
