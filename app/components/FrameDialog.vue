<script setup lang="ts">
import { FRAME_AOVS } from '../../shared/api'

/** Asks for a frame: the picture as it is framed now, computed to full quality by workers while the artist goes on. */
const props = defineProps<{ width: number, height: number }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench(), say = useSay()
const SAYS: Record<typeof FRAME_AOVS[number], string> = {
  lights: 'each light apart', lobes: 'each lobe apart', albedo: 'albedo', normal: 'normal', position: 'position', depth: 'depth', part: 'part', material: 'material', cost: 'rays a pixel',
}
const SIZES = computed(() => [
  ...[{ k: 0.5, label: 'half the view' }, { k: 1, label: 'as the view' }, { k: 2, label: 'twice the view' }].map(({ k, label }) => ({ label, width: Math.round(props.width * k), height: Math.round(props.height * k) })),
  { label: 'HD', width: 1920, height: 1080 }, { label: '4K', width: 3840, height: 2160 },
])
const name = ref(`${bench.project?.name ?? 'Frame'}, ${bench.scene?.lights ?? ''}`.slice(0, 120)), size = ref(1), passes = ref(256), aov = ref<typeof FRAME_AOVS[number][]>([]), busy = ref(false)
const first = ref<HTMLInputElement>()
onMounted(() => first.value?.select())

async function send(): Promise<void> {
  const project = bench.project, camera = bench.camera, s = SIZES.value[size.value]!
  if (!project || !camera || busy.value) return
  busy.value = true
  try {
    await api.addFrame(project.id, { name: name.value, settings: { width: s.width, height: s.height, passes: passes.value, seed: 0, aov: aov.value, camera }, state: bench.stateToSave() })
    say.note(`${name.value} is in the queue`, 'Frames shows how far it is; what you change from here on does not touch it.', { label: 'Frames', run: () => void navigateTo('/frames') })
    emit('close')
  }
  catch (e) { say.fault('The frame was not taken in', messageOf(e)) }
  finally { busy.value = false }
}
</script>

<template>
  <div class="frame" role="dialog" aria-label="Compute a frame" data-testid="frame-dialog" @keydown.esc.stop="emit('close')" @keydown.stop>
    <div class="head"><b>Compute a frame</b><button type="button" class="q" aria-label="Close" @click="emit('close')">×</button></div>
    <form @submit.prevent="send">
      <label>Name <input ref="first" v-model="name" class="b" maxlength="120" required></label>
      <label>Size <select v-model.number="size" class="b"><option v-for="(s, i) in SIZES" :key="i" :value="i">{{ s.width }} × {{ s.height }}, {{ s.label }}</option></select></label>
      <label>Passes <input v-model.number="passes" class="b" type="number" min="1" max="65536" required></label>
      <fieldset><legend>Kept in the EXR beside the picture</legend><label v-for="a in FRAME_AOVS" :key="a" class="check"><input v-model="aov" type="checkbox" :value="a"> {{ SAYS[a] }}</label></fieldset>
      <p class="small">The same bits as <code>./wavelume render</code> of this scene. Not denoised, not exposed.</p>
      <div class="do"><button class="b" :disabled="busy">Put into the queue</button><button type="button" class="b" @click="emit('close')">Not now</button></div>
    </form>
  </div>
</template>

<style scoped>
.frame { position: fixed; z-index: 40; right: 12px; top: 44px; width: 360px; background: var(--raised); border: 1px solid var(--ink); padding: 0 0 10px; display: grid; gap: 6px; }
form { display: grid; gap: 6px; }
form > label { display: grid; grid-template-columns: 70px 1fr; align-items: center; padding: 0 12px; }
fieldset { border: 0; border-top: 1px solid var(--rule); margin: 4px 0 0; padding: 4px 12px; display: grid; grid-template-columns: 1fr 1fr; }
legend { padding: 4px 6px 0 0; color: var(--soft); font-size: 12px; }
.check { display: flex; gap: 6px; align-items: center; min-height: 24px; }
.do { display: flex; gap: 8px; padding: 0 12px; }
p { margin: 0; padding: 0 12px; }
</style>
