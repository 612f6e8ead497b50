<script setup lang="ts">
import { hideByThickness } from '../../core/network/hiding'
import type { Layer } from '../../core/network/layers'
import { findElement } from '../../core/network/document'
import { definitionOf } from '../../core/network/edit'
import { driveByFile } from '../files/drive-by-file'
import { ASSUMED } from '../section/section'

/**
 * Thickness of a layer that no node of its network is computed by: of a coat without a tint, or of an opaque deposit.
 * What is to drive a deposit's makes it hide by its thickness.
 */
const props = defineProps<{ layer: Layer }>()
const emit = defineEmits<{ change: [metres: number] }>()
const bench = useBench()
const deposit = computed(() => props.layer.kind === 'deposit')
const matters = computed(() => !deposit.value || bench.layers.some(l => l.kind === 'cut'))

/** @returns the input that the thickness is then */
function hide() {
  const { node, title, thickness = ASSUMED } = props.layer
  let place: { node: string; input: string } | undefined
  bench.edit(`${title} hides by its thickness`, d => {
    const hidden = hideByThickness(d, node, thickness)
    place = hidden.place
    return hidden.document
  })
  return place
}
async function drop(e: DragEvent): Promise<void> {
  const file = e.dataTransfer?.files[0]
  const place = file && deposit.value ? hide() : undefined
  const node = place && bench.document ? findElement(bench.document, place.node) : undefined
  const input = node && definitionOf(node)?.inputs.find(i => i.name === place!.input)
  if (file && place && input) await driveByFile(file, place.node, input, 'Thickness')
}
</script>

<template>
  <div class="property" data-input="thickness" @dragover.prevent @drop.prevent.stop="drop">
    <button
      v-if="deposit"
      class="socket"
      aria-label="Drive Thickness by a node"
      title="Lets what lies below show through where it is thin: a node can drive it then. Or drop an image here"
      @click="hide"
    />
    <i v-else />
    <span>Thickness</span>
    <NumberField
      label="Thickness"
      :value="layer.thickness ?? ASSUMED"
      quantity="length"
      unit="µm"
      :low="1e-6"
      :high="5e-4"
      log
      :why="
        matters
          ? 'What light crosses, and the step at a cut’s edge'
          : 'An opaque layer without a cut looks the same at any thickness, until something drives it'
      "
      @change="emit('change', $event)"
    />
  </div>
</template>
