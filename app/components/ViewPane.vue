<script setup lang="ts">
import { labFromRec709 } from '../../core/colour/lab'
import { toByte } from '../../core/render/display'
import { ZONE_FIRST, ZONES } from '../../core/render/zones'
import { balanced, balanceForColour } from '../../core/colour/balance'
import { follow } from '../input/follow'
import { regionBetween, type Region } from '../renderer/region'
import { dolly, orbit, pan, project, rayThrough } from '../camera/orbit'

const bench = useBench()
const stage = useStage()
const say = useSay()
const props = defineProps<{
  wipe: number | null
  hold: boolean
  /** What is said of the map of differences while it is shown. */ differ: string | null
}>()
const section = defineModel<Float64Array | null>('section', { required: true })
const emit = defineEmits<{ wipe: [number]; size: [number, number]; drop: [part: string, e: DragEvent] }>()
const holder = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const still = ref<HTMLCanvasElement>()
const map = ref<HTMLCanvasElement>()
const size = reactive({ width: 760, height: 475 })
const hover = ref<string | null>(null)
defineExpose({ still, map })

const observer = new ResizeObserver(([entry]) => {
  const { width, height } = entry!.contentRect
  if (width < 40 || height < 40) return
  size.width = Math.floor(width)
  size.height = Math.floor(height)
  clearTimeout(resizing)
  resizing = setTimeout(
    () => {
      stage.session?.setSize(size.width, size.height)
      emit('size', size.width, size.height)
    },
    stage.session?.film ? 120 : 0,
  )
})
let resizing: ReturnType<typeof setTimeout> | undefined

onMounted(async () => {
  stage.start(canvas.value!)
  // the panes around have their final sizes once they are mounted too
  await nextTick()
  if (!holder.value) return
  observer.observe(holder.value)
  const r = holder.value.getBoundingClientRect()
  size.width = Math.floor(r.width)
  size.height = Math.floor(r.height)
  stage.session!.setSize(size.width, size.height)
  emit('size', size.width, size.height)
  void stage.sync()
})
onBeforeUnmount(() => {
  observer.disconnect()
  stage.stop()
})

type Drag = { mode: 'orbit' | 'model' | 'pan' | 'lights' | 'region'; x: number; y: number; moved: boolean }
let drag: Drag | null = null

function down(e: PointerEvent): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  const at = spot(e)
  if (stage.aiming === 'region') {
    drag = { mode: 'region', x: at.x, y: at.y, moved: false }
    return
  }
  drag = {
    mode:
      e.ctrlKey || e.button === 2 ? 'lights' : e.shiftKey || e.button === 1 ? 'pan' : e.altKey ? 'model' : 'orbit',
    x: e.clientX,
    y: e.clientY,
    moved: false,
  }
}
function move(e: PointerEvent): void {
  if (!drag) {
    hoverAt(e)
    return
  }
  if (drag.mode === 'region') {
    const at = spot(e)
    const r = regionBetween(drag.x, drag.y, at.x, at.y, size.width, size.height)
    drawnRegion.value = r ?? null
    return
  }
  const dx = e.clientX - drag.x
  const dy = e.clientY - drag.y
  if (!drag.moved && Math.hypot(dx, dy) < 4) return
  drag.moved = true
  drag.x = e.clientX
  drag.y = e.clientY
  if (drag.mode === 'lights') {
    bench.turnLights(dx * 0.5)
    return
  }
  if (!bench.camera) return
  // the model turns before a camera and lights that stand still: both go round it
  if (drag.mode === 'model') {
    bench.turnLights(-dx * 0.4)
    stage.setCamera(orbit(bench.camera, -dx * 0.4, 0))
    return
  }
  stage.setCamera(
    drag.mode === 'orbit'
      ? orbit(bench.camera, -dx * 0.4, dy * 0.4)
      : pan(bench.camera, dx / size.height, dy / size.height),
  )
}
function up(e: PointerEvent): void {
  const d = drag
  drag = null
  if (d?.mode === 'region') {
    if (drawnRegion.value) stage.region = drawnRegion.value
    drawnRegion.value = null
    stage.aiming = null
    return
  }
  if (stage.aiming === 'white' && d && !d.moved) {
    pickWhite(spot(e))
    return
  }
  if (stage.aiming === 'focus' && d && !d.moved) {
    focusOn(spot(e))
    return
  }
  if (stage.aiming === 'mirror' && d && !d.moved) {
    mirrorAt(spot(e))
    return
  }
  if (!d || d.moved || d.mode !== 'orbit') return
  const at = spot(e)
  const name = partAt(at.x, at.y)
  if (name !== null) {
    bench.selectPart(name)
    drawnLine.value = { part: name, line: across(at.x, at.y) }
  }
}
/** The region being drawn. */
const drawnRegion = shallowRef<Region | null>(null)
const boxStyle = (r: Region) => ({
  left: r.x0 * 100 + '%',
  top: r.y0 * 100 + '%',
  width: (r.x1 - r.x0) * 100 + '%',
  height: (r.y1 - r.y0) * 100 + '%',
})
/** Takes the mean of a few pixels as what shall be shown neutral. */
function pickWhite(at: { x: number; y: number }): void {
  const mean = [0, 0, 0]
  let n = 0
  for (let y = -3; y <= 3; y++)
    for (let x = -3; x <= 3; x++) {
      const c = stage.session?.pixelAt(at.x + x, at.y + y)
      if (c) {
        n++
        c.forEach((v, k) => {
          mean[k]! += v
        })
      }
    }
  stage.aiming = null
  if (n && balanceForColour(mean)) stage.white = { picked: mean.map(v => +(v / n).toPrecision(4)) }
  else say.note('That cannot be a white', 'Pick a spot that is lit and not a pure colour.')
}
/** What the camera sees at a spot: a batch of the one ray that was cast, and the ray. */
async function castAt(at: { x: number; y: number }) {
  const g = stage.geometry
  const c = bench.camera
  stage.aiming = null
  if (!g || !c) return undefined
  const { castClosest, createRayBatch } = await import('../../core/trace/cast')
  const batch = createRayBatch(1)
  const ray = rayThrough(c, at.x, at.y, size.width, size.height)
  batch.origin.set(ray.slice(0, 3))
  batch.direction.set(ray.slice(3, 6))
  batch.distance[0] = Infinity
  castClosest(g.hierarchy, batch, 1)
  if (batch.triangle[0]! >= 0) return { g, c, batch, ray }
  say.note('Nothing is there', 'Click a part of the model.')
  return undefined
}
/** Moves the panel whose fields are shown to where a spot of the model mirrors it. */
async function mirrorAt(at: { x: number; y: number }): Promise<void> {
  const found = await castAt(at)
  const i = stage.panelShown
  if (!found || i === null) return
  const { fillPoint } = await import('../../core/scene/fill-point')
  const { POINT, POINT_STRIDE } = await import('../../core/point/slots')
  const { mirroredAt } = await import('../lights/panel-handles')
  const S = new Float64Array(POINT_STRIDE)
  const { g, batch, ray } = found
  fillPoint(g, batch, 0, batch.direction, 0, S)
  const way = ray.slice(3, 6)
  const facing = way.reduce((s, x, k) => s + x * S[POINT.normal + k]!, 0) > 0 ? -1 : 1
  const normal = [0, 1, 2].map(k => S[POINT.normal + k]! * facing)
  bench.changeScene('Mirror a panel at a spot', s => ({
    ...s,
    rigs: s.rigs.map(r =>
      r.name === s.lights
        ? {
            ...r,
            panels: r.panels.map((p, k) =>
              k === i ? mirroredAt(p, [...S.subarray(0, 3)], normal, way, r.turn, stage.middle) : p,
            ),
          }
        : r,
    ),
  }))
}
/** Makes sharp what is seen at a spot. */
async function focusOn(at: { x: number; y: number }): Promise<void> {
  const found = await castAt(at)
  if (!found) return
  const { c, batch, ray } = found
  const f = c.target.map((x, k) => x - c.position[k]!)
  const along =
    f.reduce((s, x, k) => s + x * ray[3 + k]!, 0) / Math.hypot(...f) / Math.hypot(ray[3]!, ray[4]!, ray[5]!)
  stage.setCamera({
    ...c,
    focus: +(batch.distance[0]! * along * Math.hypot(ray[3]!, ray[4]!, ray[5]!)).toPrecision(6),
  })
}
/** What is dropped on the picture goes to the part under it: a material of the project, or a file of one. */
function dropOn(e: DragEvent): void {
  const at = spot(e)
  const name = partAt(at.x, at.y)
  if (name !== null) emit('drop', name, e)
}
const spot = (e: MouseEvent) => {
  const r = holder.value!.getBoundingClientRect()
  return { x: e.clientX - r.left, y: e.clientY - r.top }
}
function partAt(x: number, y: number): string | null {
  const i = stage.session?.partAt(x, y) ?? -1
  return i >= 0 ? (stage.geometry?.partNames[i] ?? null) : null
}
function hoverAt(e: MouseEvent): void {
  const at = spot(e)
  hover.value = partAt(at.x, at.y)
  probed.value = stage.probing ? (stage.session?.pixelAt(at.x, at.y) ?? null) : null
}
/**
 * Pixel under the pointer, linear Rec.709, and what is said of it: display bytes, Lab under D65, stops from mid
 * grey.
 */
const probed = ref<number[] | null>(null)
const said = computed(() => {
  const c = probed.value
  if (!c || !stage.probing) return ''
  const { exposure, balance } = stage.look
  const shown = balanced(balance, c).map(x => toByte(x * 2 ** exposure))
  const lab = labFromRec709(c)
  const y = 0.2126 * c[0]! + 0.7152 * c[1]! + 0.0722 * c[2]!
  const stops = Math.log2(y / 0.18)
  const ev = y > 0 ? (stops >= 0 ? '+' : '') + stops.toFixed(1) : '−∞'
  const fixed = (values: ArrayLike<number>, digits: number) => Array.from(values, x => x.toFixed(digits)).join(' ')
  return [
    `linear ${fixed(c, 3)}`,
    `display ${shown.join(' ')}`,
    `Lab ${fixed(lab, 1)}`,
    `${ev} EV from 18 %`,
  ].join(' · ')
})

function wheel(e: WheelEvent): void {
  if (bench.camera) stage.setCamera(dolly(bench.camera, Math.exp(e.deltaY * 0.001)))
}

/** Half the length of A–A before it is drawn otherwise, pixels. */
const HALF = 44
interface Line {
  x0: number
  y0: number
  x1: number
  y1: number
}
/**
 * Where A–A lies: as it was drawn, or about the point that was clicked last; about a part's middle before that.
 */
const drawnLine = ref<{ part: string; line: Line } | null>(null)
const across = (x: number, y: number): Line => ({ x0: x - HALF, y0: y, x1: x + HALF, y1: y })
function middleOfPart(): { x: number; y: number } | undefined {
  const g = stage.geometry
  const c = bench.camera
  const i = g?.partNames.indexOf(bench.part ?? '') ?? -1
  if (!g || !c || i < 0) return undefined
  const b = g.partBounds.subarray(i * 6, i * 6 + 6)
  const at = project(
    c,
    [0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2),
    size.width,
    size.height,
  )
  return (
    at && {
      x: Math.min(size.width - HALF, Math.max(HALF, at.x)),
      y: Math.min(size.height - 10, Math.max(10, at.y)),
    }
  )
}
const line = computed<Line>(() => {
  if (drawnLine.value?.part === bench.part) return drawnLine.value!.line
  const at = middleOfPart() ?? { x: size.width * 0.5, y: size.height * 0.6 }
  return across(at.x, at.y)
})
/** Draws A–A: one of its ends, or the whole line, moved by some pixels. */
function moveLine(what: 'start' | 'end' | 'line', dx: number, dy: number): void {
  if (bench.part === null) return
  const l = { ...line.value }
  const x = (v: number) => Math.min(size.width, Math.max(0, v))
  const y = (v: number) => Math.min(size.height, Math.max(0, v))
  if (what !== 'end') {
    l.x0 = x(l.x0 + dx)
    l.y0 = y(l.y0 + dy)
  }
  if (what !== 'start') {
    l.x1 = x(l.x1 + dx)
    l.y1 = y(l.y1 + dy)
  }
  drawnLine.value = { part: bench.part, line: l }
}
function lineDown(what: 'start' | 'end' | 'line', e: PointerEvent): void {
  let { clientX, clientY } = e
  follow(e, m => {
    moveLine(what, m.clientX - clientX, m.clientY - clientY)
    ;({ clientX, clientY } = m)
  })
}
function lineKey(what: 'start' | 'end', e: KeyboardEvent): void {
  const d = { ArrowLeft: [-6, 0], ArrowRight: [6, 0], ArrowUp: [0, -6], ArrowDown: [0, 6] }[e.key]
  if (!d) return
  e.preventDefault()
  e.stopPropagation()
  moveLine(what, d[0]!, d[1]!)
}
watch(
  [line, () => stage.drawn?.passes === 1, () => bench.part],
  () => {
    const c = bench.camera
    const { x0, y0, x1, y1 } = line.value
    if (!c) return
    const n = 72
    const rays = new Float64Array(n * 6)
    for (let i = 0; i < n; i++) {
      const t = (i + 0.5) / n
      rays.set(rayThrough(c, x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, size.width, size.height), i * 6)
    }
    section.value = rays
  },
  { immediate: true },
)

const wipeDown = (e: PointerEvent) =>
  follow(e, m => emit('wipe', Math.min(1, Math.max(0, spot(m).x / size.width))))
function wipeKey(e: KeyboardEvent): void {
  const d = e.key === 'ArrowLeft' ? -0.02 : e.key === 'ArrowRight' ? 0.02 : 0
  if (d && props.wipe !== null) {
    emit('wipe', Math.min(1, Math.max(0, props.wipe + d)))
    e.preventDefault()
  }
}
const stillStyle = computed(() =>
  props.hold
    ? {}
    : props.wipe !== null
      ? { clipPath: `inset(0 ${(1 - props.wipe) * 100}% 0 0)` }
      : { display: 'none' },
)
</script>

<template>
  <div class="ground">
    <div
      ref="holder"
      class="picture"
      role="group"
      aria-label="View"
      data-testid="view"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointerleave="hover = null"
      @dragover.prevent="hoverAt($event)"
      @drop.prevent="dropOn"
      @wheel.prevent="wheel"
      @contextmenu.prevent
    >
      <canvas
        ref="canvas"
        class="fill"
        role="img"
        :aria-label="`Render of ${bench.project?.name ?? 'the model'}`"
      />
      <canvas ref="still" class="fill" :style="stillStyle" data-testid="still" />
      <canvas v-show="differ !== null" ref="map" class="fill map" data-testid="difference" />
      <div v-if="differ" class="tag" role="status" data-testid="difference-says">{{ differ }}</div>
      <svg
        v-if="wipe === null && !hold && differ === null && !stage.lightsOpen"
        class="fill through"
        role="group"
        aria-label="Section line"
      >
        <g class="line">
          <line v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }" class="halo" />
          <line v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }" stroke-dasharray="12 3 2 3" />
          <line
            v-bind="{ x1: line.x0, y1: line.y0, x2: line.x1, y2: line.y1 }"
            class="grip"
            data-testid="section-line"
            @pointerdown.stop="lineDown('line', $event)"
            @pointerup.stop
          />
          <g
            v-for="end in ['start', 'end'] as const"
            :key="end"
            :transform="end === 'start' ? `translate(${line.x0} ${line.y0})` : `translate(${line.x1} ${line.y1})`"
            class="end"
            role="slider"
            tabindex="0"
            :aria-label="end === 'start' ? 'First end of the section line' : 'Second end of the section line'"
            :aria-valuenow="Math.round(end === 'start' ? line.x0 : line.x1)"
            :data-testid="`section-${end}`"
            @pointerdown.stop="lineDown(end, $event)"
            @pointerup.stop
            @keydown="lineKey(end, $event)"
          >
            <circle r="12" class="hit" />
            <rect x="-4" y="-4" width="8" height="8" />
            <text :x="end === 'start' ? -16 : 9" y="4">A</text>
          </g>
        </g>
      </svg>
      <i
        v-for="r in [stage.region, drawnRegion].filter(x => x !== null)"
        :key="r.x0 + ' ' + r.x1"
        class="region"
        :style="boxStyle(r)"
        data-testid="region"
      />
      <div v-if="stage.aiming" class="tag" role="status">
        {{
          stage.aiming === 'region'
            ? 'Draw the region to render'
            : stage.aiming === 'focus'
              ? 'Click what shall be sharp'
              : stage.aiming === 'mirror'
                ? 'Click where the panel shall be mirrored'
                : 'Click what shall be white or grey'
        }}
        · Esc leaves it
      </div>
      <div
        v-if="wipe !== null && !hold"
        class="wipe"
        role="slider"
        tabindex="0"
        aria-label="Wipe"
        :aria-valuenow="Math.round(wipe * 100)"
        :style="{ left: wipe * 100 + '%' }"
        data-testid="wipe"
        @pointerdown.stop="wipeDown"
        @pointerup.stop
        @keydown="wipeKey"
      >
        <i />
      </div>
      <div
        v-if="(hover || said) && !stage.aiming && wipe === null && differ === null"
        class="tag"
        data-testid="probe"
      >
        {{ hover ?? 'background' }}<template v-if="said"> · {{ said }}</template>
      </div>
      <ul v-if="stage.zones" class="zones" aria-label="Zones, stops from 18 %">
        <li v-for="(c, i) in ZONES" :key="i">
          <i :style="{ background: `rgb(${c.join()})` }" />{{ i === 0 ? '≤ ' : i === ZONES.length - 1 ? '≥ ' : ''
          }}{{ i + ZONE_FIRST > 0 ? '+' : i + ZONE_FIRST < 0 ? '−' : '' }}{{ Math.abs(i + ZONE_FIRST) }}
        </li>
      </ul>
      <PanelHandles
        v-if="stage.lightsOpen && wipe === null && !hold && differ === null"
        :width="size.width"
        :height="size.height"
      />
      <LightsPanel v-if="stage.lightsOpen" @close="stage.lightsOpen = false" />
      <LensPanel v-if="stage.lensOpen" @close="stage.lensOpen = false" />
      <CurvesPanel v-if="stage.curvesOpen" @close="stage.curvesOpen = false" />
      <TestStrip v-if="bench.strip" :key="bench.strip.node + bench.strip.input" />
      <div v-if="stage.waiting" class="wait">{{ stage.waiting }} …</div>
      <div v-if="stage.failure" class="wait">{{ stage.failure }}</div>
    </div>
  </div>
</template>

<style scoped>
.ground {
  flex: 1;
  min-height: 0;
  background: var(--ground);
  padding: 0;
}
.picture {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  touch-action: none;
  cursor: crosshair;
}
.fill {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
/* what only one of the pictures shows stays ground */
.map {
  background: var(--ground);
  pointer-events: none;
}
.through {
  pointer-events: none;
}
.grip {
  stroke: transparent !important;
  stroke-width: 11 !important;
  pointer-events: stroke;
  cursor: move;
}
.end {
  pointer-events: all;
  cursor: grab;
}
.hit {
  fill: transparent;
}
.end:focus-visible rect {
  stroke-width: 4;
}
.line line {
  stroke: #fff;
  stroke-width: 1.4;
}
.line .halo {
  stroke: var(--accent);
  stroke-width: 3;
}
.line rect {
  fill: #fff;
  stroke: var(--accent);
  stroke-width: 2;
}
.line text {
  fill: #fff;
  stroke: #333;
  stroke-width: 2px;
  paint-order: stroke;
  font-weight: 600;
  font-size: 13px;
}
.region {
  position: absolute;
  border: 1px solid #fff;
  outline: 1px solid var(--accent);
  pointer-events: none;
}
.wipe {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
}
.wipe i {
  position: absolute;
  left: 11px;
  top: 0;
  bottom: 0;
  width: 2px;
  background: #fff;
  outline: 1px solid var(--accent);
}
.tag {
  position: absolute;
  left: 6px;
  bottom: 6px;
  padding: 1px 6px;
  background: var(--raised);
  border: 1px solid var(--rule);
  font-size: 12px;
  pointer-events: none;
}
.zones {
  position: absolute;
  right: 6px;
  top: 6px;
  margin: 0;
  padding: 3px 7px;
  list-style: none;
  background: var(--raised);
  border: 1px solid var(--rule);
  font-size: 12px;
  pointer-events: none;
}
.zones li {
  display: flex;
  align-items: center;
  gap: 6px;
  line-height: 17px;
}
.zones i {
  width: 18px;
  height: 12px;
  border: 1px solid var(--ink);
}
.wait {
  position: absolute;
  left: 50%;
  top: 45%;
  transform: translateX(-50%);
  padding: 4px 10px;
  background: var(--raised);
  border: 1px solid var(--ink);
}
</style>
