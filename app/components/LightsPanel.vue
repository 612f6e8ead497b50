<script setup lang="ts">
import type { Rig } from '../../core/light/rig'
import { BACKDROP } from '../../core/light/rigs'
import { uniqueName } from '../../core/mesh/model'
import { saveFile } from '../renderer/save-file'

/** The light rig in use: dim and turn, its environment, its panels; own rigs are kept, named, taken away and carried as files. */
const emit = defineEmits<{ close: [] }>()
const bench = useBench(), stage = useStage(), say = useSay()
const picture = ref<HTMLInputElement>(), opening = ref<HTMLInputElement>(), busy = ref('')
const rig = computed(() => bench.scene?.rigs.find(r => r.name === bench.scene?.lights))
const environment = computed(() => rig.value?.environment)
const uniform = computed(() => environment.value?.kind === 'uniform' ? environment.value.radiance : [0, 0, 0])
/** Strength of a uniform environment apart from its colour: its largest component. */
const strength = computed(() => Math.max(...uniform.value))
const missing = computed(() => environment.value?.kind === 'image' && stage.isMissing(environment.value.asset))

const change = (label: string, edit: (r: Rig) => Rig, key?: string) => bench.changeScene(label, s => ({ ...s, rigs: s.rigs.map(r => r.name === s.lights ? edit(r) : r) }), key)
const evOf = (factor: number) => factor > 0 ? +Math.log2(factor).toFixed(2) : -20
const dim = (ev: number) => change('Dim the lights', r => ({ ...r, dim: ev <= -20 ? 0 : 2 ** ev }), 'dim')
const turn = (degrees: number) => change('Turn lights', r => ({ ...r, turn: degrees }), 'turn')
const colour = (c: number[], level = strength.value) => { const most = Math.max(...c) || 1; change('Colour of the environment', r => ({ ...r, environment: { kind: 'uniform', radiance: c.map(x => +(x / most * level).toPrecision(5)) as [number, number, number] } }), 'environment') }
const image = (edit: Partial<{ scale: number, turn: number }>) => change('Environment picture', r => r.environment.kind === 'image' ? { ...r, environment: { ...r.environment, ...edit } } : r, 'environment')
const seen = (on: boolean) => change(on ? 'See the environment' : 'Hide the environment', (r) => { const { backdrop: _, ...rest } = r; return on ? rest : { ...rest, backdrop: BACKDROP } })
const panel = (i: number, edit: (p: Rig['panels'][number]) => Rig['panels'][number], key?: string) => change(`Panel ${rig.value?.panels[i]?.name ?? ''}`, r => ({ ...r, panels: r.panels.map((p, k) => k === i ? edit(p) : p) }), key)
const level = (i: number, ev: number) => panel(i, (p) => { const most = Math.max(...p.radiance) || 1; return { ...p, radiance: p.radiance.map(x => x / most * 2 ** ev) as [number, number, number] } }, `panel${i}`)
/** Panel whose colour is shown. */
const tinted = ref<number | null>(null)
const tint = (i: number, c: number[]) => panel(i, (p) => { const most = Math.max(...c) || 1, level = Math.max(...p.radiance); return { ...p, radiance: c.map(x => +(x / most * level).toPrecision(6)) as [number, number, number] } }, `tint${i}`)

async function choose(files: FileList | null | undefined): Promise<void> {
  const file = files?.[0], loader = stage.loader()
  if (!file || !loader) return
  busy.value = `Reading ${file.name}`
  try {
    const bytes = new Uint8Array(await file.arrayBuffer()), p = await loader.picture(bytes), asset = `asset:${await api.putAsset(bytes, file.name)}`
    const { backdrop: _, ...rest } = rig.value!
    change(`Environment ${file.name}`, () => ({ ...rest, environment: { kind: 'image', asset, scale: 1, turn: 0, file: file.name.slice(0, 200) } }))
    if (Math.abs(p.width / p.height - 2) > 0.02) say.note(`${file.name} is ${p.width} × ${p.height}`, 'An environment is expected twice as wide as high: it is stretched to all directions.')
  }
  catch (e) { say.fault(`${file.name} was not read`, messageOf(e)) }
  finally { busy.value = '' }
}
/** A name that no rig has. */
const freeName = (wish: string) => uniqueName(wish.slice(0, 100) || 'Lights', new Set(bench.scene?.rigs.map(r => r.name)))
const addRig = (label: string, r: Rig) => { const name = freeName(r.name); bench.changeScene(label, s => ({ ...s, rigs: [...s.rigs, { ...r, name, own: true }], lights: name })) }
const keep = () => { if (rig.value) addRig('Keep an own rig', { ...rig.value, name: `${rig.value.name}, own` }) }
const rename = (to: string) => { const name = to.trim(); if (rig.value && name && name !== rig.value.name) { const free = freeName(name); bench.changeScene(`Rename the lights to ${free}`, s => ({ ...s, rigs: s.rigs.map(r => r.name === s.lights ? { ...r, name: free } : r), lights: free })) } }
const remove = () => bench.changeScene('Take the rig away', s => ({ ...s, rigs: s.rigs.filter(r => r.name !== s.lights), lights: s.rigs.find(r => r.name !== s.lights)!.name }))
async function save(): Promise<void> {
  const { writeRig } = await import('../../core/formats/rig-file')
  if (rig.value) saveFile(`${rig.value.name.replace(/[^A-Za-z0-9._-]+/g, '_')}.rig.json`, new TextEncoder().encode(writeRig(rig.value)))
}
async function open(files: FileList | null | undefined): Promise<void> {
  const file = files?.[0]
  if (!file) return
  try {
    const { readRig } = await import('../../core/formats/rig-file')
    addRig(`Lights from ${file.name}`, readRig(await file.text()))
  }
  catch (e) { say.fault(`${file.name} was not read`, messageOf(e)) }
}
</script>

<template>
  <div v-if="rig" class="lights" role="dialog" aria-label="Light rig" data-testid="lights-panel" @keydown.esc="emit('close')" @pointerdown.stop @pointerup.stop @wheel.stop @drop.stop.prevent="choose($event.dataTransfer?.files)">
    <div class="head"><b>Light rig</b><span>{{ rig.own ? 'own' : 'comes with every project' }}</span><button class="q" aria-label="Close the light rig" @click="emit('close')">×</button></div>
    <div class="scroll">
      <div class="row"><span>Name</span><input v-if="rig.own" class="b wide" aria-label="Name of the rig" maxlength="100" :value="rig.name" @change="rename(($event.target as HTMLInputElement).value)"><b v-else class="wide">{{ rig.name }}</b></div>
      <div class="row"><span>Dim</span><NumberField label="Dim" :value="evOf(rig.dim)" :low="-8" :high="4" @change="dim" /><span>EV</span></div>
      <div class="row"><span>Turn</span><NumberField label="Turn" :value="rig.turn" :low="0" :high="360" @change="turn" /><span>°</span></div>
      <h2 class="rule">Environment<AloneLight :light="rig.panels.length" of="the environment" /></h2>
      <template v-if="environment?.kind === 'image'">
        <div class="row"><span>Picture</span><span class="wide name" :title="environment.file ?? environment.asset">{{ environment.file ?? 'picture' }}{{ missing ? ', not here: choose it again' : '' }}</span></div>
        <div class="row"><span>Exposure</span><NumberField label="Exposure of the environment" :value="evOf(environment.scale)" :low="-8" :high="8" @change="image({ scale: 2 ** $event })" /><span>EV</span></div>
        <div class="row"><span>Rotation</span><NumberField label="Rotation of the environment" :value="environment.turn" :low="0" :high="360" @change="image({ turn: $event })" /><span>°</span></div>
      </template>
      <template v-else>
        <div class="row colour"><span>Colour</span><ColourField label="Colour of the environment" :value="uniform.map(x => x / (strength || 1))" @change="colour" /></div>
        <div class="row"><span>Level</span><NumberField label="Level of the environment" :value="strength" :low="0" :high="2" @change="colour(strength ? uniform : [1, 1, 1], $event)" /><span /></div>
      </template>
      <div class="row"><label class="wide check"><input type="checkbox" :checked="rig.backdrop === undefined" @change="seen(($event.target as HTMLInputElement).checked)"> Seen behind the model</label></div>
      <div class="row"><span class="wide"><button class="b" @click="picture?.click()">{{ environment?.kind === 'image' ? 'Another picture …' : 'Picture …' }}</button> <button v-if="environment?.kind === 'image'" class="b" @click="colour([1, 1, 1], 0.5)">Plain instead</button><span v-if="busy" class="small" role="status"> {{ busy }} …</span></span></div>
      <template v-if="rig.panels.length">
        <h2 class="rule">Panels</h2>
        <template v-for="(p, i) in rig.panels" :key="i">
          <div class="row panel"><button class="name" :aria-expanded="tinted === i" :title="`${p.name}: colour`" @click="tinted = tinted === i ? null : i">{{ p.name }}</button><NumberField :label="`Level of ${p.name}`" :value="evOf(Math.max(...p.radiance))" :low="-6" :high="14" @change="level(i, $event)" /><span>EV</span><AloneLight :light="i" :of="p.name" /></div>
          <div v-if="tinted === i" class="row colour"><span>Colour</span><ColourField :label="`Colour of ${p.name}`" :value="p.radiance.map(x => x / (Math.max(...p.radiance) || 1))" @change="tint(i, $event)" /></div>
        </template>
      </template>
      <h2 class="rule">Parts that shine<AloneLight :light="rig.panels.length + 1" of="what parts send out" /></h2>
      <div class="row ends"><button class="b" @click="keep">Keep as own rig</button><button v-if="rig.own" class="b" @click="remove">Take away</button><button class="b" @click="save">Save as file</button><button class="b" @click="opening?.click()">Open a file</button></div>
      <input ref="picture" type="file" accept=".exr,.hdr,.png,.jpg,.jpeg" hidden data-testid="environment-picture" @change="choose(($event.target as HTMLInputElement).files); ($event.target as HTMLInputElement).value = ''">
      <input ref="opening" type="file" accept=".json" hidden data-testid="rig-file" @change="open(($event.target as HTMLInputElement).files); ($event.target as HTMLInputElement).value = ''">
    </div>
  </div>
</template>

<style scoped>
.lights { position: absolute; left: 8px; bottom: 8px; top: 8px; width: 330px; max-height: 430px; margin-top: auto; background: var(--paper); border: 1px solid var(--ink); display: flex; flex-direction: column; cursor: default; }
.scroll { overflow-y: auto; padding-bottom: 6px; }
.row { display: grid; grid-template-columns: 76px minmax(0, 1fr) 84px 22px; align-items: center; gap: 7px; min-height: 28px; padding: 0 9px; }
.panel { grid-template-columns: 76px minmax(0, 1fr) 84px 22px 44px; }
button.name { text-align: left; font: inherit; color: inherit; background: none; border: 0; padding: 0; min-height: 24px; text-decoration: underline dotted; cursor: pointer; }
h2 { display: flex; justify-content: space-between; align-items: center; }
.wide { grid-column: 2 / 5; }
.colour { grid-template-columns: 76px minmax(0, 1fr) 84px 22px; }
.check { grid-column: 1 / 5; display: flex; gap: 6px; align-items: center; min-height: 24px; }
.name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.ends { display: flex; flex-wrap: wrap; padding-top: 6px; border-top: 1px solid var(--rule); margin-top: 4px; }
h2 { margin: 4px 0 0; padding: 5px 9px 1px; font-size: 12px; font-weight: 500; color: var(--soft); }
</style>
