<script setup lang="ts">
import { ACCEPTED_PICTURES } from '../../../core/formats/pictures/ending'
import { counted } from '../../words/counted'
import { layerNames } from '../../../core/light/create-lights'
import { MOST_PANELS } from '../../../core/scene/most-panels'
import type { Panel, Rig } from '../../../core/scene/rig'
import { BACKDROP } from '../../../core/scene/rigs'
import { uniqueName } from '../../../core/mesh/model'
import { placed } from '../../lights/place-panel'
import { saveFile } from '../../files/save-file'
import { evOf } from '../../words/units'

/**
 * The light rig in use: dim and turn, its environment, its panels; own rigs are kept, named, taken away and
 * carried as files.
 */
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const stage = useStage()
const say = useSay()
const picture = ref<HTMLInputElement>()
const opening = ref<HTMLInputElement>()
const busy = ref('')
const rig = computed(() => bench.scene?.rigs.find(r => r.name === bench.scene?.lights))
/** Layers that a picture under the rig is kept apart in; the last two are the environment and what parts send out. */
const layers = computed(() => (rig.value ? layerNames(rig.value).length : 0))
const environment = computed(() => rig.value?.environment)

const change = (label: string, edit: (r: Rig) => Rig, key?: string) =>
  bench.changeScene(label, s => ({ ...s, rigs: s.rigs.map(r => (r.name === s.lights ? edit(r) : r)) }), key)
const dim = (ev: number) => change('Dim the lights', r => ({ ...r, dim: ev <= -20 ? 0 : 2 ** ev }), 'dim')
const turn = (degrees: number) => change('Turn lights', r => ({ ...r, turn: degrees }), 'turn')
const surround = (label: string, to: Rig['environment'], key?: string) =>
  change(label, r => ({ ...r, environment: to }), key)
const seen = (on: boolean) =>
  change(on ? 'See the environment' : 'Hide the environment', r => {
    const { backdrop: _, ...rest } = r
    return on ? rest : { ...rest, backdrop: BACKDROP }
  })
const { panelShown: shown, middle } = storeToRefs(stage)
watch(
  () => rig.value?.name,
  () => {
    shown.value = null
  },
)
/** A new panel stands above and to the left of where the camera looks from, a blocker beside it and nearer. */
function add(blocks: boolean): void {
  const b = stage.geometry?.hierarchy.bounds
  const c = bench.camera
  if (!b || !c || !rig.value) return
  const size = Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!)
  const from = (Math.atan2(c.position[0] - middle.value[0]!, c.position[2] - middle.value[2]!) * 180) / Math.PI
  const name = uniqueName(blocks ? 'Blocker' : 'Panel', new Set(rig.value.panels.map(p => p.name)))
  const blank: Panel = {
    name,
    centre: [0, 0, 0],
    u: [1, 0, 0],
    v: [0, 1, 0],
    radiance: blocks ? [0, 0, 0] : [6, 6, 6],
    visible: false,
    ...(blocks ? { blocks } : {}),
  }
  shown.value = rig.value.panels.length
  change(`Add ${name}`, r => ({
    ...r,
    panels: [
      ...r.panels,
      placed(
        blank,
        {
          azimuth: ((from - (blocks ? 15 : 50) + 540) % 360) - 180,
          elevation: 35,
          distance: size * (blocks ? 0.9 : 1.5),
          width: size * 0.5,
          height: size * 0.5,
        },
        middle.value,
      ),
    ],
  }))
}
async function choose(files: FileList | null | undefined): Promise<void> {
  const file = files?.[0]
  const loader = stage.loader()
  if (!file || !loader) return
  busy.value = `Reading ${file.name}`
  try {
    const bytes = new Uint8Array(await file.arrayBuffer())
    const p = await loader.picture(bytes)
    const asset = `asset:${await api.putAsset(bytes, file.name)}`
    const { backdrop: _, ...rest } = rig.value!
    change(`Environment ${file.name}`, () => ({
      ...rest,
      environment: { kind: 'image', asset, scale: 1, turn: 0, file: file.name.slice(0, 200) },
    }))
    if (p.faulty)
      say.note(
        `${counted(p.faulty, 'pixel')} of ${file.name} without light`,
        'They are negative, infinite or no numbers, and are taken as black.',
      )
    if (p.space) say.note(`${file.name} is ACEScg`, 'It is converted as it lights the scene.')
    if (Math.abs(p.width / p.height - 2) > 0.02)
      say.note(
        `${file.name} is ${p.width} × ${p.height}`,
        'An environment is expected twice as wide as high: it is stretched to all directions.',
      )
  } catch (e) {
    say.fault(`${file.name} was not read`, messageOf(e))
  } finally {
    busy.value = ''
  }
}
/** A name that no rig has. */
const freeName = (wish: string) =>
  uniqueName(wish.slice(0, 100) || 'Lights', new Set(bench.scene?.rigs.map(r => r.name)))
const addRig = (label: string, r: Rig) => {
  const name = freeName(r.name)
  bench.changeScene(label, s => ({ ...s, rigs: [...s.rigs, { ...r, name, own: true }], lights: name }))
}
const keep = () => {
  if (rig.value) addRig('Keep an own rig', { ...rig.value, name: `${rig.value.name}, own` })
}
const rename = (to: string) => {
  const name = to.trim()
  if (rig.value && name && name !== rig.value.name) {
    const free = freeName(name)
    bench.changeScene(`Rename the lights to ${free}`, s => ({
      ...s,
      rigs: s.rigs.map(r => (r.name === s.lights ? { ...r, name: free } : r)),
      lights: free,
    }))
  }
}
const remove = () =>
  bench.changeScene('Take the rig away', s => ({
    ...s,
    rigs: s.rigs.filter(r => r.name !== s.lights),
    lights: s.rigs.find(r => r.name !== s.lights)!.name,
  }))
async function save(): Promise<void> {
  const { writeRig } = await import('../../../core/formats/rig-file')
  if (rig.value)
    saveFile(
      `${rig.value.name.replace(/[^A-Za-z0-9._-]+/g, '_')}.rig.json`,
      new TextEncoder().encode(writeRig(rig.value)),
    )
}
async function open(files: FileList | null | undefined): Promise<void> {
  const file = files?.[0]
  if (!file) return
  try {
    const { readRig } = await import('../../../core/formats/rig-file')
    addRig(`Lights from ${file.name}`, readRig(await file.text()))
  } catch (e) {
    say.fault(`${file.name} was not read`, messageOf(e))
  }
}
</script>

<template>
  <FloatingPanel
    v-if="rig"
    name="lights"
    title="Light rig"
    :width="330"
    :height="430"
    data-testid="lights-panel"
    @close="emit('close')"
    @drop.stop.prevent="choose($event.dataTransfer?.files)"
  >
    <template #says>{{ rig.own ? 'own' : 'comes with every project' }}</template>
    <div class="scroll">
      <div class="row">
        <span>Name</span>
        <UInput
          v-if="rig.own"
          class="wide"
          aria-label="Name of the rig"
          maxlength="100"
          :model-value="rig.name"
          @change="rename(($event.target as HTMLInputElement).value)"
        />
        <b v-else class="wide">{{ rig.name }}</b>
      </div>
      <div class="row">
        <span>Dim</span>
        <NumberField label="Dim" :value="evOf(rig.dim)" :low="-8" :high="4" @change="dim" />
        <span>EV</span>
      </div>
      <div class="row">
        <span>Turn</span>
        <NumberField label="Turn" :value="rig.turn" :low="0" :high="360" @change="turn" />
        <span>°</span>
      </div>
      <h2 class="rule">Environment<AloneLight :light="layers - 2" of="the environment" /></h2>
      <EnvironmentFields
        :environment="rig.environment"
        :missing="stage.environmentMissing"
        @change="surround"
        @picture="picture?.click()"
      />
      <div class="row">
        <UCheckbox
          class="wide"
          label="Seen behind the model"
          :model-value="rig.backdrop === undefined"
          @update:model-value="on => seen(on === true)"
        />
      </div>
      <div v-if="environment?.kind === 'image' || busy" class="row">
        <span class="wide">
          <UButton v-if="environment?.kind === 'image'" @click="picture?.click()"> Another picture … </UButton>
          <span v-if="busy" class="small" role="status"> {{ busy }} …</span>
        </span>
      </div>
      <h2 class="rule">Panels</h2>
      <PanelRows :rig="rig" :middle="middle" @change="change" />
      <div class="row">
        <span class="wide two">
          <UButton type="submit" :disabled="rig.panels.length >= MOST_PANELS" @click="add(false)"
            >Add a panel</UButton
          >
          {{ ' ' }}
          <UButton
            type="submit"
            :disabled="rig.panels.length >= MOST_PANELS"
            title="A dark card that keeps light off and shapes reflections"
            @click="add(true)"
          >
            Add a blocker
          </UButton>
        </span>
      </div>
      <h2 class="rule">Parts that shine<AloneLight :light="layers - 1" of="what parts send out" /></h2>
      <div class="row ends">
        <UButton @click="keep">Keep as own rig</UButton>
        <UButton v-if="rig.own" @click="remove">Take away</UButton>
        <UButton @click="save">Save as file</UButton>
        <UButton @click="opening?.click()">Open a file</UButton>
      </div>
      <input
        ref="picture"
        type="file"
        :accept="ACCEPTED_PICTURES"
        hidden
        data-testid="environment-picture"
        @change="
          choose(($event.target as HTMLInputElement).files)
          ;($event.target as HTMLInputElement).value = ''
        "
      />
      <input
        ref="opening"
        type="file"
        accept=".json"
        hidden
        data-testid="rig-file"
        @change="
          open(($event.target as HTMLInputElement).files)
          ;($event.target as HTMLInputElement).value = ''
        "
      />
    </div>
  </FloatingPanel>
</template>

<style scoped>
.scroll {
  padding-bottom: 6px;
}
.row {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) 84px 22px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px;
}
h2 {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.wide {
  grid-column: 2 / 5;
}
.ends {
  display: flex;
  flex-wrap: wrap;
  padding-top: 6px;
  border-top: 1px solid var(--rule);
  margin-top: 4px;
}
h2 {
  margin: 4px 0 0;
  padding: 5px 9px 1px;
  font-size: 12px;
  font-weight: 500;
  color: var(--soft);
}
</style>
