<script setup lang="ts">
import { CALM } from '../input/calm'
import { COOLEST, HOTTEST } from '../../core/colour/balance'
import { bytesOfGeometry } from '../../core/scene/geometry'
import { follow } from '../input/follow'

defineProps<{ width: number; height: number }>()
const WHITE =
  'White that is shown neutral: drag for its temperature, double-click for D65; Shift+W picks it in the picture'
/** Share of paths that end at the most bounces there may be from which on it is said: less is not seen. */
const MOST_ENDED = 1e-4
const bench = useBench()
const stage = useStage()
const rig = computed(() => bench.scene?.rigs.find(r => r.name === bench.scene?.lights))
const rigs = steady(() => bench.scene?.rigs.map(r => r.name) ?? [])
/** What is done to what is shown: it changes the truth. */
const shown = computed(() => {
  const d = stage.drawn
  const all = [
    bench.tap ? `tap: ${bench.tap.node}` : '',
    bench.layerAlone !== null ? 'layer alone' : '',
    bench.partAlone !== null ? 'part alone' : '',
    stage.paused ? 'paused' : '',
    d && d.settled === 1 ? 'settled' : '',
    d && d.passes < 1 ? 'coarse' : d?.denoised ? `denoised at ${d.denoised}` : '',
    stage.clipping ? 'clipping marked' : '',
    stage.zones ? 'exposure in zones' : '',
    stage.region ? 'region' : '',
    stage.lightAlone !== null ? 'light alone' : '',
    bench.scene?.clamp ? `fireflies held at ${bench.scene.clamp}` : '',
    stage.environmentMissing ? 'environment picture missing' : '',
    stage.ended > MOST_ENDED ? 'long paths ended' : '',
    stage.white ? 'white balanced' : '',
    stage.neutral ? 'PBR Neutral' : '',
  ].filter(Boolean)
  return all.length ? all.join(', ') : 'as computed'
})
// What changes with every drawing is drawn by itself: parts of the library beside it are not made anew with it
const Samples = () => String(stage.drawn?.passes ?? 0)
const Clipped = () =>
  (stage.drawn ? (stage.drawn.clipped * 100).toFixed(1) + ' %' : '–') + (stage.clipping ? ' ▨' : '')
const Noise = () => (stage.drawn?.noise != null ? (stage.drawn.noise * 100).toFixed(1) + ' %' : '–')
const Rate = () => `${(stage.rates.paths / 1e6).toFixed(2)} M`
const Shown = () => shown.value
const noiseSays = computed(() =>
  stage.drawn?.settled
    ? `${Math.round(stage.drawn.settled * 100)} % of the picture has settled and gets no more passes`
    : 'Standard error of the pixels, relative',
)
/** Triangles that are traced, and the memory that all of the shape takes. */
const mesh = computed(() => {
  const g = stage.geometry
  if (!g) return { count: '–', says: '' }
  const n = g.part.length
  const count = n >= 1e6 ? `${(n / 1e6).toFixed(1)} M` : n >= 1e4 ? `${Math.round(n / 1e3)} k` : String(n)
  const mebibytes = bytesOfGeometry(g) / 2 ** 20
  return {
    count: `${count} · ${mebibytes < 10 ? mebibytes.toFixed(1) : Math.round(mebibytes)} MiB`,
    says: `${n.toLocaleString('en-GB')} triangles, those of copies once. MiB: all of the shape in memory`,
  }
})
const signed = (x: number) => (x > 0 ? '+' : '') + x.toFixed(1)

/** Drags a value sideways. */
function scrub(e: PointerEvent, work: (dx: number) => void): void {
  let x = e.clientX
  follow(e, m => {
    work(m.clientX - x)
    x = m.clientX
  })
}
const expose = (dx: number) => {
  stage.exposure = Math.min(10, Math.max(-10, +(stage.exposure + dx * 0.02).toFixed(2)))
}
const exposeKey = (e: KeyboardEvent) => {
  const d =
    e.key === 'ArrowUp' || e.key === 'ArrowRight' ? 0.1 : e.key === 'ArrowDown' || e.key === 'ArrowLeft' ? -0.1 : 0
  if (d) {
    expose(d / 0.02)
    e.preventDefault()
  }
}
const turn = bench.turnLights
const turnKey = (e: KeyboardEvent) => {
  const d = e.key === 'ArrowRight' ? 5 : e.key === 'ArrowLeft' ? -5 : 0
  if (d) {
    turn(d)
    e.preventDefault()
  }
}
/** White of the picture: as it is, of a temperature, or picked. */
const whiteSays = computed(() =>
  stage.white === null ? 'D65' : 'kelvin' in stage.white ? `${stage.white.kelvin} K` : 'picked',
)
const warm = (dx: number) => {
  const k = stage.white && 'kelvin' in stage.white ? stage.white.kelvin : 6500
  stage.white = { kelvin: Math.round(Math.min(HOTTEST, Math.max(COOLEST, 1e6 / (1e6 / k - dx * 0.5))) / 10) * 10 }
}
const warmKey = (e: KeyboardEvent) => {
  const d =
    e.key === 'ArrowUp' || e.key === 'ArrowRight' ? 6 : e.key === 'ArrowDown' || e.key === 'ArrowLeft' ? -6 : 0
  if (d) {
    warm(d)
    e.preventDefault()
  } else if (e.key === 'Delete' || e.key === 'Backspace') {
    stage.white = null
    e.preventDefault()
    e.stopPropagation()
  }
}
const choose = (name: string) => bench.changeScene(`Lights: ${name}`, s => ({ ...s, lights: name }))
</script>

<template>
  <div class="strip" role="group" aria-label="Title strip">
    <div class="wide">
      <span class="k">part</span>
      <span class="v">{{ bench.part ?? '–' }}</span>
    </div>
    <div class="wide">
      <span class="k"
        >lights ·
        <UButton
          variant="link"
          class="edit"
          :aria-expanded="stage.lightsOpen"
          aria-label="Change the lights"
          title="Change the light rig (Shift+L)"
          data-testid="edit-lights"
          @click="void (stage.panel = stage.lightsOpen ? null : 'lights')"
        >
          edit
        </UButton>
      </span>
      <span class="v">
        <USelect
          class="plain"
          aria-label="Light rig"
          :model-value="bench.scene?.lights"
          :items="rigs"
          :content="CALM"
          @update:model-value="choose"
        />
      </span>
    </div>
    <div
      class="scrub"
      role="slider"
      tabindex="0"
      aria-label="Turn of the lights"
      :aria-valuenow="Math.round(rig?.turn ?? 0)"
      title="Drag to turn the lights (in the picture: Ctrl and drag)"
      data-testid="turn"
      @pointerdown="scrub($event, dx => turn(dx * 0.5))"
      @keydown="turnKey"
    >
      <span class="k">turn</span>
      <span class="v">{{ Math.round(rig?.turn ?? 0) }}°</span>
    </div>
    <div>
      <span class="k"
        >frame ·
        <UButton
          variant="link"
          class="edit"
          :aria-expanded="stage.panel === 'lens'"
          aria-label="Change the lens"
          title="Lens: focal length, aperture, what is sharp (Shift+J)"
          data-testid="edit-lens"
          @click="void (stage.panel = stage.panel === 'lens' ? null : 'lens')"
        >
          lens
        </UButton>
      </span>
      <span class="v">{{ width }} × {{ height }}</span>
    </div>
    <div
      class="scrub"
      role="slider"
      tabindex="0"
      aria-label="Exposure"
      :aria-valuenow="stage.exposure"
      title="Drag to expose; double-click for 0 EV"
      data-testid="exposure"
      @pointerdown="scrub($event, expose)"
      @dblclick="stage.exposure = 0"
      @keydown="exposeKey"
    >
      <span class="k">exposure</span>
      <span class="v">{{ signed(stage.exposure) }} EV</span>
    </div>
    <div
      class="scrub"
      role="slider"
      tabindex="0"
      aria-label="White"
      :aria-valuenow="stage.white && 'kelvin' in stage.white ? stage.white.kelvin : 6500"
      :aria-valuetext="whiteSays"
      :title="WHITE"
      data-testid="white"
      @pointerdown="scrub($event, warm)"
      @dblclick="stage.white = null"
      @keydown="warmKey"
    >
      <span class="k">white</span>
      <span class="v">{{ whiteSays }}</span>
    </div>
    <div>
      <span class="k">clipping</span>
      <span class="v">
        <UButton
          variant="link"
          class="plain"
          :aria-pressed="stage.clipping"
          title="Mark what clips with stripes"
          data-testid="clipping"
          @click="void (stage.clipping = !stage.clipping)"
        >
          <Clipped />
        </UButton>
      </span>
    </div>
    <div :title="mesh.says">
      <span class="k">triangles</span>
      <span class="v" data-testid="triangles">{{ mesh.count }}</span>
    </div>
    <div>
      <span class="k">samples</span>
      <span class="v" data-testid="samples"><Samples /></span>
    </div>
    <div :title="noiseSays">
      <span class="k">noise</span>
      <span class="v"><Noise /></span>
    </div>
    <div>
      <span class="k">paths/s</span>
      <span class="v" data-testid="rate"><Rate /></span>
    </div>
    <div>
      <span class="k">time</span>
      <span class="v"><RenderTime /></span>
    </div>
    <div class="wide">
      <span class="k">shown</span>
      <span class="v">
        <UButton
          variant="link"
          class="plain"
          :aria-pressed="stage.denoise"
          title="Denoise the view, never what is kept or exported (G)"
          data-testid="shown"
          @click="void (stage.denoise = !stage.denoise)"
        >
          <Shown />
        </UButton>
      </span>
    </div>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  height: 44px;
  flex: none;
  margin: 0;
  background: var(--paper);
  border-top: 1px solid var(--ink);
  overflow: hidden;
}
.strip > div {
  padding: 4px 7px;
  border-right: 1px solid var(--rule);
  min-width: 0;
  flex: 0 1 auto;
}
.strip > .wide {
  flex: 1 1 70px;
}
.strip > .fig {
  min-width: 52px;
}
.strip > div:last-child {
  border-right: 0;
}
.k {
  display: block;
  font-size: 11px;
  color: var(--soft);
  line-height: 14px;
}
.v {
  display: block;
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  line-height: 19px;
}
.scrub {
  cursor: ew-resize;
  touch-action: none;
}
.b.t.plain {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 100%;
}
.edit {
  font-size: 11px;
  line-height: 14px;
  text-decoration: underline;
  padding: 0 4px;
  margin: -4px 0;
  min-height: 20px;
}
.plain {
  background: none;
  border: 0;
  padding: 0;
  font: inherit;
  font-weight: 600;
  color: inherit;
  min-height: 19px;
  max-width: 120px;
}
</style>
