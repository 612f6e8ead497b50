<script setup lang="ts">
import { decodeSRGB, encodeSRGB } from '../../core/colour/rgb'

/** A linear Rec.709 colour, picked as sRGB. */
const props = defineProps<{ label: string; value: number[]; disabled?: boolean }>()
const emit = defineEmits<{ change: [number[]] }>()
const hex = computed(
  () =>
    '#' +
    props.value
      .slice(0, 3)
      .map(x =>
        Math.round(255 * encodeSRGB(Math.min(1, Math.max(0, x))))
          .toString(16)
          .padStart(2, '0'),
      )
      .join(''),
)
const pick = (text: string) =>
  emit(
    'change',
    [1, 3, 5].map(i => +decodeSRGB(parseInt(text.slice(i, i + 2), 16) / 255).toPrecision(5)),
  )
</script>

<template>
  <span class="small lin" title="Kept as linear Rec.709; picked as sRGB"
    >linear
    {{
      value
        .slice(0, 3)
        .map(x => x.toFixed(2))
        .join(' ')
    }}</span
  >
  <input
    class="colour"
    type="color"
    :value="hex"
    :aria-label="label"
    :disabled="disabled"
    @input="pick(($event.target as HTMLInputElement).value)"
  />
</template>

<style scoped>
.colour {
  width: 100%;
  height: 24px;
  border: 1px solid var(--rule);
  padding: 0;
  background: none;
}
.colour::-webkit-color-swatch-wrapper {
  padding: 0;
}
.colour::-webkit-color-swatch {
  border: 0;
}
.lin {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 11px;
}
</style>
