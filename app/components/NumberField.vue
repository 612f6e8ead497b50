<script setup lang="ts">
import { paced } from '../renderer/paced'
import { readQuantity, writeQuantity } from '../words/units'

const props = withDefaults(
  defineProps<{
    label: string
    value: number
    quantity?: string
    unit?: string
    low?: number
    high?: number
    slider?: boolean
    disabled?: boolean
    why?: string
    log?: boolean
  }>(),
  { quantity: 'plain', unit: '', low: -Infinity, high: Infinity, slider: true, why: undefined },
)
const emit = defineEmits<{ change: [number] }>()
const typed = ref<string | null>(null)
const wrong = ref(false)
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

function enter(): void {
  if (typed.value === null) return
  const v = readQuantity(typed.value, props.quantity, props.unit)
  wrong.value = v === undefined
  if (v !== undefined) {
    emit('change', v)
    typed.value = null
  }
}
const slide = paced((e: Event) => send(Number((e.target as HTMLInputElement).value)))
function send(t: number): void {
  emit(
    'change',
    props.log
      ? +(props.low * (props.high / props.low) ** t).toPrecision(4)
      : +(props.low + t * (props.high - props.low)).toPrecision(5),
  )
}
/** Forgets what was typed. */
function leave(): void {
  typed.value = null
  wrong.value = false
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
    @input="slide"
  />
  <span v-else />
  <input
    class="b num"
    :class="{ wrong }"
    type="text"
    :value="shown"
    :aria-label="label"
    :aria-invalid="wrong"
    :disabled="disabled"
    :title="wrong ? 'A number, with or without a unit' : why"
    spellcheck="false"
    @focus="($event.target as HTMLInputElement).select()"
    @input="typed = ($event.target as HTMLInputElement).value"
    @keydown.enter="enter"
    @keydown.esc="leave"
    @blur="enter"
  />
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
.num.wrong {
  border: 2px solid var(--ink);
  text-decoration: underline wavy;
}
</style>
