<script setup lang="ts">
import type { ShallowRef } from 'vue'
import { dolly, orbit, pan } from '../../core/scene/orbit'
import { fieldOf } from '../input/field'
import { follow } from '../input/follow'
import { valuesWaiting } from '../renderer/paced'
import { regionBetween, type Region } from '../renderer/region'
import { useViewMenu } from '../menus/useViewMenu'
import { useAiming } from '../view/useAiming'
import { usePixelProbe } from '../view/usePixelProbe'
import { useSectionLine } from '../view/useSectionLine'
import { panels } from './panels'

const bench = useBench()
const stage = useStage()
const props = defineProps<{
  wipe: number | null
  hold: boolean
  /** What is said of the map of differences while it is shown. */ differ: string | null
  /** Receives the rays along A–A, which change with every move of the camera: a box, so that nobody is drawn again. */
  section: { rays: ShallowRef<Float64Array | null> }
}>()
const emit = defineEmits<{
  wipe: [number]
  size: [number, number]
  drop: [part: string, e: DragEvent]
}>()
const holder = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const still = ref<HTMLCanvasElement>()
const map = ref<HTMLCanvasElement>()
const size = reactive({ width: 760, height: 475 })
const hover = ref<string | null>(null)
const { line, lineDown, lineKey, layAt } = useSectionLine(size, props.section.rays)
const { aimAt } = useAiming(size)
const { probed, said } = usePixelProbe()
const panel = computed(() => (stage.panel === null ? undefined : panels[stage.panel]?.component))
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

type Drag = {
  mode: 'orbit' | 'model' | 'pan' | 'lights' | 'region'
  x: number
  y: number
  moved: boolean
  button: number
}
let drag: Drag | null = null

function down(e: PointerEvent): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  const at = spot(e)
  if (stage.aiming === 'region') {
    drag = { mode: 'region', x: at.x, y: at.y, moved: false, button: e.button }
    return
  }
  drag = {
    mode:
      e.ctrlKey || e.button === 2 ? 'lights' : e.shiftKey || e.button === 1 ? 'pan' : e.altKey ? 'model' : 'orbit',
    x: e.clientX,
    y: e.clientY,
    moved: false,
    button: e.button,
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
  if (d && !d.moved && d.button === 2) {
    openMenu(e)
    return
  }
  if (d && !d.moved && aimAt(spot(e))) return
  if (!d || d.moved || d.mode !== 'orbit') return
  const at = spot(e)
  const name = partAt(at.x, at.y)
  if (name !== null) {
    bench.selectPart(name)
    layAt(name, at.x, at.y)
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
/** What is dropped on the picture goes to the part under it: a material of the project, or a file of one. */
function dropOn(e: DragEvent): void {
  const at = spot(e)
  const name = partAt(at.x, at.y)
  if (name === null) return
  // files that meet no part go on to what says what would take them
  e.preventDefault()
  emit('drop', name, e)
}
const menuOf = useViewMenu(() => hover.value)
/** The menu of a right button that was let go where it went down: dragged, it turns the lights. */
function openMenu(e: PointerEvent): void {
  const { clientX, clientY } = e
  holder.value!.dispatchEvent(new MouseEvent('contextmenu', { clientX, clientY, bubbles: true, cancelable: true }))
}
/** The browser's own, of the button that goes down, is none; that of the keyboard is. */
function holdMenu(e: MouseEvent): void {
  if (!e.isTrusted || (e as PointerEvent).pointerType !== 'mouse' || fieldOf(e)) return
  e.preventDefault()
  e.stopPropagation()
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
function wheel(e: WheelEvent): void {
  if (bench.camera) stage.setCamera(dolly(bench.camera, Math.exp(e.deltaY * 0.001)))
}

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
    <div id="beside-left" class="beside" />
    <PaneMenu :of="menuOf">
      <div
        ref="holder"
        class="picture"
        role="group"
        aria-label="View"
        data-testid="view"
        :data-busy="stage.busy || valuesWaiting > 0"
        @pointerdown="down"
        @pointermove="move"
        @pointerup="up"
        @pointerleave="hover = null"
        @dragover.prevent="hoverAt($event)"
        @drop="dropOn"
        @wheel.prevent="wheel"
        @contextmenu.capture="holdMenu"
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
        <TriangleEdges v-if="stage.edges && wipe === null && !hold && differ === null" :size="size" />
        <SectionLine
          v-if="wipe === null && !hold && differ === null && !stage.lightsOpen"
          :line="line"
          @grip="lineDown"
          @step="lineKey"
        />
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
        <ZonesLegend v-if="stage.zones" />
        <PanelHandles
          v-if="stage.lightsOpen && wipe === null && !hold && differ === null"
          :width="size.width"
          :height="size.height"
        />
        <component :is="panel" v-if="panel" @close="stage.panel = null" />
        <TestStrip v-if="bench.strip" :key="bench.strip.node + bench.strip.input" />
        <div v-if="stage.waiting" class="wait">{{ stage.waiting }} …</div>
        <div v-if="stage.failure" class="wait">{{ stage.failure }}</div>
      </div>
    </PaneMenu>
    <div id="beside-right" class="beside" />
  </div>
</template>

<style scoped>
.ground {
  flex: 1;
  min-height: 0;
  background: var(--ground);
  display: flex;
}
/* panels that stand beside the picture */
.beside:not(:empty) {
  width: min(330px, 50%);
  flex: none;
  border: solid var(--rule);
  border-width: 0 3px 0 0;
}
.beside:last-child:not(:empty) {
  border-width: 0 0 0 3px;
}
.picture {
  position: relative;
  flex: 1;
  min-width: 0;
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
