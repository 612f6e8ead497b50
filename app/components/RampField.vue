<script setup lang="ts">
import { encodeSRGB } from '../../core/colour/rgb'
import { inputOf } from '../../core/network/document'
import { follow } from '../input/follow'
import { paced } from '../renderer/paced'

/** Stops of a ramp on a bar: dragged, added by a click on the bar, taken out with Delete. */
const props = defineProps<{ node: string }>()
const bar = ref<HTMLElement>()
const {
  at,
  element,
  points: stops,
  chosen,
  move,
  add,
  addAfter,
  remove,
  keys,
} = usePoints(() => props.node, 'Stop')
const mode = computed(() => element.value && inputOf(element.value, 'interpolation')?.attributes.value)
const css = (c: number[]) => `rgb(${c.map(x => Math.round(255 * encodeSRGB(Math.min(1, Math.max(0, x))))).join()})`
/** What the bar spans: 0 to 1, or as far as the stops go. */
const low = computed(() => Math.min(0, ...stops.value.map(s => s.position)))
const high = computed(() => Math.max(1, ...stops.value.map(s => s.position)))
const left = (p: number) => ((p - low.value) / (high.value - low.value)) * 100
const gradient = computed(() => {
  const at = (k: number, position: number) => `${css(stops.value[k]!.value)} ${left(position)}%`
  // a constant ramp keeps the colour before a stop up to that stop
  const held = (k: number, position: number) => (mode.value === 'constant' && k > 0 ? [at(k - 1, position)] : [])
  const list = stops.value.flatMap((s, k) => [...held(k, s.position), at(k, s.position)])
  return `linear-gradient(90deg, ${list.join()})`
})
const drag = paced((k: number, p: number) => move(k, p))
function down(k: number, e: PointerEvent): void {
  at.value = k
  const box = bar.value!.getBoundingClientRect()
  const from = low.value
  const to = high.value
  follow(e, m => drag(k, from + (to - from) * Math.min(1, Math.max(0, (m.clientX - box.left) / box.width))))
}
function addAt(e: MouseEvent): void {
  const box = bar.value!.getBoundingClientRect()
  add(low.value + ((high.value - low.value) * (e.clientX - box.left)) / box.width)
}
</script>

<template>
  <div class="ramp">
    <div
      ref="bar"
      class="bar"
      :style="{ background: gradient }"
      title="Click to add a stop"
      data-testid="ramp"
      @click.self="addAt"
    >
      <button
        v-for="(s, k) in stops"
        :key="k"
        class="stop"
        :class="{ at: k === at }"
        role="slider"
        :aria-label="`Stop ${k + 1}`"
        :aria-valuenow="+s.position.toFixed(3)"
        :aria-valuemin="+low.toFixed(3)"
        :aria-valuemax="+high.toFixed(3)"
        :style="{ left: left(s.position) + '%' }"
        @pointerdown.stop="down(k, $event)"
        @focus="at = k"
        @keydown="keys"
      >
        <i :style="{ background: css(s.value) }" />
      </button>
    </div>
    <div v-if="chosen" class="row">
      <span>Stop {{ at + 1 }} of {{ stops.length }}</span>
      <NumberField
        :label="`Position of stop ${at + 1}`"
        :value="chosen.position"
        :slider="false"
        @change="move(at, $event)"
      />
      <span v-if="chosen.wired" class="small wide">colour by a wire</span>
      <ColourField
        v-else
        :label="`Colour of stop ${at + 1}`"
        :value="chosen.value"
        @change="move(at, chosen.position, $event)"
      />
      <span class="wide ends">
        <button class="b" title="A stop after this one" @click="addAfter">Add</button>
        <button class="b" :disabled="stops.length < 2" @click="remove">Take out</button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.ramp {
  padding: 8px 15px 6px;
}
.bar {
  position: relative;
  height: 26px;
  border: 1px solid var(--ink);
  margin-bottom: 22px;
  cursor: copy;
}
.stop {
  position: absolute;
  top: 20px;
  width: 24px;
  height: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  touch-action: none;
}
.stop i {
  display: block;
  width: 11px;
  height: 15px;
  margin: 2px auto 0;
  border: 1px solid var(--ink);
}
.stop.at i {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.row {
  display: grid;
  grid-template-columns: auto 70px 1fr 84px;
  align-items: center;
  gap: 7px;
}
.row > :nth-child(2):empty {
  display: none;
}
.wide {
  grid-column: 1 / 5;
}
.ends {
  display: flex;
  gap: 6px;
}
</style>
