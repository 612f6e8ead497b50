<script setup lang="ts">
import type { Panel } from '../../core/scene/rig'
import { follow } from '../input/follow'
import { dotOf, handled, moved, putAt, type Dot } from '../lights/panel-handles'

/**
 * The rig's panels as dots on a ball about the model: dragged or moved by the arrow keys, a panel goes round it;
 * full dots are on the side of the camera, rings behind.
 */
const props = defineProps<{ width: number; height: number }>()
const bench = useBench()
const stage = useStage()
const rig = computed(() => bench.scene?.rigs.find(r => r.name === bench.scene?.lights))
/** Width of the open panel of lights, which the ball keeps clear of. */
const COVERED = 346
const radius = computed(() =>
  Math.max(40, Math.min(0.42 * Math.min(props.width, props.height), (props.width - COVERED) / 2 - 24)),
)
const centre = computed(() => ({
  x: Math.min(props.width - radius.value - 24, Math.max(props.width / 2, COVERED + radius.value + 12)),
  y: props.height / 2,
}))
const dots = computed(() => {
  const c = bench.camera
  const panels = rig.value?.panels ?? []
  return c
    ? handled(panels, stage.panelShown).map(i => ({
        p: panels[i]!,
        i,
        d: dotOf(panels[i]!, rig.value!.turn, stage.middle, c),
      }))
    : []
})
const name = (p: Panel, d: Dot) => `${p.name}: ${d.near ? 'on the side of the camera' : 'behind the model'}`

/** Moves a panel by some radii; (x, y) to the right and up. */
function shift(i: number, from: Dot, x: number, y: number): Dot {
  const to = moved(from, x, y)
  const r = rig.value!
  const camera = bench.camera!
  bench.changeScene(
    `Move ${r.panels[i]!.name}`,
    s => ({
      ...s,
      rigs: s.rigs.map(q =>
        q.name === s.lights
          ? { ...q, panels: q.panels.map((p, k) => (k === i ? putAt(p, to, q.turn, stage.middle, camera) : p)) }
          : q,
      ),
    }),
    `handle${i}`,
  )
  return to
}
function down(i: number, d: Dot, e: PointerEvent): void {
  let { clientX, clientY } = e
  let at = d
  stage.panelShown = i
  follow(e, m => {
    at = shift(i, at, (m.clientX - clientX) / radius.value, (clientY - m.clientY) / radius.value)
    ;({ clientX, clientY } = m)
  })
}
function key(i: number, d: Dot, e: KeyboardEvent): void {
  const step = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] }[e.key]
  if (!step) return
  e.preventDefault()
  e.stopPropagation()
  shift(i, d, step[0]!, step[1]!)
}
</script>

<template>
  <svg class="handles" role="group" aria-label="Panels about the model">
    <circle class="rim" :cx="centre.x" :cy="centre.y" :r="radius" />
    <g
      v-for="{ p, i, d } in dots"
      :key="i"
      class="dot"
      :class="{ far: !d.near, at: stage.panelShown === i }"
      :transform="`translate(${centre.x + d.x * radius} ${centre.y - d.y * radius})`"
      role="button"
      tabindex="0"
      :aria-label="name(p, d)"
      :data-testid="`handle-${p.name}`"
      @pointerdown.stop="down(i, d, $event)"
      @pointerup.stop
      @keydown="key(i, d, $event)"
      @focus="stage.panelShown = i"
    >
      <title>{{ name(p, d) }}. Drag it round the model</title>
      <circle r="13" class="hit" />
      <rect v-if="p.blocks" x="-6" y="-6" width="12" height="12" class="mark" />
      <circle v-else r="7" class="mark" />
      <text x="12" y="4">{{ p.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.rim {
  fill: none;
  stroke: #fff;
  stroke-width: 1;
  stroke-dasharray: 2 5;
  opacity: 0.7;
}
.dot {
  pointer-events: all;
  cursor: grab;
}
.hit {
  fill: transparent;
}
.mark {
  fill: var(--accent);
  stroke: #fff;
  stroke-width: 2;
}
.far .mark {
  fill: rgb(0 0 0 / 0.35);
  stroke: #fff;
  stroke-dasharray: 3 2;
}
.at .mark,
.dot:focus-visible .mark {
  stroke-width: 4;
}
.dot:focus-visible {
  outline: none;
}
text {
  fill: #fff;
  stroke: #333;
  stroke-width: 2.5px;
  paint-order: stroke;
  font-size: 12px;
  font-weight: 600;
}
</style>
