<script setup lang="ts">
import { useTyped } from '../input/useTyped'
import { readColour, writeHex, writeLinear } from '../words/colours'

/** A linear Rec.709 colour: typed or pasted with its space, chosen, or picked from anything that is on the screen. */
defineProps<{ label: string; value: number[]; disabled?: boolean }>()
const emit = defineEmits<{ change: [number[]] }>()
const { typed, wrong, enter, leave } = useTyped(readColour, c => emit('change', c))
/** Takes what the browser's own chooser or picker gives, which are six digits of sRGB. */
function take(hex: string): void {
  const c = readColour(hex)
  leave()
  if (typeof c !== 'string') emit('change', c)
}
/** The browser's picker of what is on the screen: the picture, a proof, a reference; not every browser has it. */
type Picker = new () => { open(): Promise<{ sRGBHex: string }> }
const Dropper = (globalThis as { EyeDropper?: Picker }).EyeDropper
async function pick(): Promise<void> {
  try {
    if (Dropper) take((await new Dropper().open()).sRGBHex)
  } catch {
    // Esc was pressed: nothing was picked
  }
}
</script>

<template>
  <input
    class="b typed"
    :class="{ wrong: wrong !== '' }"
    type="text"
    :value="typed ?? writeLinear(value)"
    :aria-label="`${label}, typed`"
    :aria-invalid="wrong !== ''"
    :disabled="disabled"
    :title="`${writeLinear(value)} (Rec.709). Type or paste #c83010, srgb 200 48 16 or linear 0.58 0.03 0.005`"
    spellcheck="false"
    @focus="($event.target as HTMLInputElement).select()"
    @input="typed = ($event.target as HTMLInputElement).value"
    @keydown.enter="enter"
    @keydown.esc="leave"
    @blur="enter"
  />
  <span class="chosen">
    <input
      class="colour"
      type="color"
      :value="writeHex(value)"
      :aria-label="label"
      :disabled="disabled"
      @input="take(($event.target as HTMLInputElement).value)"
    />
    <button
      v-if="Dropper && !disabled"
      class="pick"
      :aria-label="`Pick ${label} from the screen`"
      title="Pick from the picture, a proof or a reference, as it is shown"
      @click="pick"
    >
      <UIcon name="i-lucide-pipette" />
    </button>
  </span>
  <span v-if="wrong" class="reason" role="alert">{{ wrong }}</span>
</template>

<style scoped>
.typed {
  width: 100%;
  min-width: 0;
  font-size: 11px;
}
.chosen {
  display: flex;
  min-width: 0;
}
.pick {
  width: 24px;
  height: 24px;
}
.colour {
  flex: 1;
  min-width: 0;
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
</style>
