<script setup lang="ts">
import { paced } from '../renderer/paced'
import { follow } from '../input/follow'
import { useTyped } from '../input/useTyped'
import { FINER, stepped } from '../input/step'
import { readQuantity, writeQuantity } from '../words/units'

const props = withDefaults(
  defineProps<{
    label: string
    value: number
    quantity?: string
    unit?: string
    low?: number
    high?: number
    /** What nothing goes below. */
    least?: number
    slider?: boolean
    disabled?: boolean
    why?: string
    log?: boolean
    /** What a double click on the slider gives back. */
    initial?: number
  }>(),
  {
    quantity: 'plain',
    unit: '',
    low: -Infinity,
    high: Infinity,
    least: -Infinity,
    slider: true,
    why: undefined,
    initial: undefined,
  },
)
const emit = defineEmits<{ change: [number] }>()
/** What was typed, as a number that the field takes, or why it does not. */
function read(text: string): number | string {
  const v = readQuantity(text, props.quantity, props.unit, props.value)
  return typeof v === 'number' && v < props.least ? `it is not below ${props.least}` : v
}
const { typed, wrong, enter, leave } = useTyped(read, v => emit('change', v))
const shown = computed(
  () =>
    typed.value ?? writeQuantity(props.value, props.quantity, props.unit) + (props.unit ? ' ' + props.unit : ''),
)
const ranged = computed(() => props.slider && Number.isFinite(props.low) && Number.isFinite(props.high))
const place = computed(() =>
  props.log
    ? Math.log(Math.max(props.value, props.low) / props.low) / Math.log(props.high / props.low)
    : (props.value - props.low) / (props.high - props.low),
)

/** Arrows step what the field holds, finer with Shift. */
const step = paced((up: boolean, fine: boolean) => {
  leave()
  emit('change', Math.max(props.least, stepped(props.value, up, fine, props)))
})
const slide = paced((e: Event) => send(Number((e.target as HTMLInputElement).value)))
/** A drag of the slider: ten times finer with Shift, from where the hand has it then. */
function drag(e: PointerEvent): void {
  if (e.button !== 0 || props.disabled) return
  e.preventDefault()
  const slider = e.currentTarget as HTMLInputElement
  slider.focus()
  const { left, width } = slider.getBoundingClientRect()
  const put = (t: number) => {
    slider.value = String(t)
    slider.dispatchEvent(new Event('input', { bubbles: true }))
  }
  // a press beside the thumb takes it there; with Shift it stays
  let at = e.shiftKey
    ? Math.min(1, Math.max(0, place.value))
    : Math.min(1, Math.max(0, (e.clientX - left) / width))
  if (!e.shiftKey) put(at)
  let x = e.clientX
  follow(e, m => {
    at += (m.clientX - x) / width / (m.shiftKey ? FINER : 1)
    x = m.clientX
    put(Math.min(1, Math.max(0, at)))
  })
}
const asItComes = (): void => {
  if (props.initial !== undefined && !props.disabled) emit('change', props.initial)
}
function send(t: number): void {
  emit(
    'change',
    props.log
      ? +(props.low * (props.high / props.low) ** t).toPrecision(4)
      : +(props.low + t * (props.high - props.low)).toPrecision(5),
  )
}
</script>

<template>
  <input
    v-if="ranged"
    class="slide"
    type="range"
    min="0"
    max="1"
    step="0.001"
    :value="place"
    :aria-label="`${label}, slider`"
    :disabled="disabled"
    :title="why"
    @pointerdown="drag"
    @dblclick="asItComes"
    @input="slide"
  />
  <span v-else />
  <input
    class="b num"
    :class="{ wrong: wrong !== '' }"
    type="text"
    :value="shown"
    :aria-label="label"
    :aria-invalid="wrong !== ''"
    :disabled="disabled"
    :title="wrong || why"
    spellcheck="false"
    @focus="($event.target as HTMLInputElement).select()"
    @input="typed = ($event.target as HTMLInputElement).value"
    @keydown.enter="enter"
    @keydown.up.prevent="step(true, $event.shiftKey)"
    @keydown.down.prevent="step(false, $event.shiftKey)"
    @keydown.esc="leave"
    @blur="enter"
  />
  <span v-if="wrong" class="reason" role="alert">{{ wrong }}</span>
</template>

<style scoped>
.slide {
  width: 100%;
  min-width: 0;
  height: 24px;
  accent-color: var(--ink);
  appearance: none;
  background: linear-gradient(var(--ink), var(--ink)) center / 100% 1px no-repeat;
}
.slide::-webkit-slider-thumb {
  appearance: none;
  width: 5px;
  height: 16px;
  background: var(--ink);
}
.num {
  width: 100%;
  text-align: right;
  min-width: 0;
}
</style>
