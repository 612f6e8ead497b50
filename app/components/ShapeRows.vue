<script setup lang="ts">
import { addDisplacement, displacementPlaces, removeDisplacement } from '../../core/network/displace'
import { definitionOf } from '../../core/network/edit'
import type { InputPlace } from '../../core/network/ends'
import { findElement } from '../../core/network/document'
import { MOST_LEVELS } from '../../core/mesh/subdivision/levels'
import { CALM } from '../input/calm'
import type { PartShape } from '../../core/shape/shaping'
import { usualEdge } from '../../core/shape/usual-edge'

/** What shapes the part at hand: the displacement of its material, and how finely the part is cut for it. */
const emit = defineEmits<{ goto: [string] }>()
const bench = useBench()
const stage = useStage()
const FINER = 'Smaller edges carry finer shape in outlines and shadows; what is finer still is shaded'
/** What a height of one moves at first, in longest sides of the part. */
const BEGIN = 0.01
const material = computed(() =>
  bench.materialKey === null ? undefined : (bench.materialName ?? bench.materialNameOf(bench.materialKey)),
)
const places = computed(() =>
  bench.document && material.value ? displacementPlaces(bench.document, material.value) : undefined,
)
const LABELS = { height: 'Height', amount: 'Amount', zero: 'Zero level', low: 'Lowest', high: 'Highest' } as const
const rows = steady(() =>
  Object.entries(places.value ?? {}).flatMap(([what, place]: [string, InputPlace]) => {
    const node = findElement(bench.document!, place.node)
    const input = node && definitionOf(node)?.inputs.find(i => i.name === place.input)
    return input ? [{ node: place.node, input, label: LABELS[what as keyof typeof LABELS] }] : []
  }),
)
const part = computed(() => bench.scene?.parts.find(p => p.name === bench.part))
/** Edge that the part is cut to where nobody says. */
const usual = computed(() => usualEdge(stage.atHand.extent ?? 1))

function displace(): void {
  const name = material.value
  if (name === undefined) return
  bench.edit(
    `Displace ${bench.materialKey}`,
    d => addDisplacement(d, name, BEGIN * (stage.atHand.extent ?? 1)).document,
  )
}
function leave(): void {
  const name = material.value
  if (name !== undefined) bench.edit(`${bench.materialKey} is not displaced`, d => removeDisplacement(d, name))
}
function shape(label: string, own: PartShape): void {
  const name = bench.part
  bench.changeScene(
    `${label} of ${name}`,
    s => ({ ...s, parts: s.parts.map(p => (p.name === name ? { ...p, ...own } : p)) }),
    `${name}/${label}`,
  )
}
const STEPS = [
  { value: 0, label: 'none' },
  ...Array.from({ length: MOST_LEVELS }, (_, i) => ({ value: i + 1, label: `${i + 1} step${i ? 's' : ''}` })),
]
const subdivide = (levels: number) =>
  shape('Subdivision', { subdivide: levels ? { ...part.value?.subdivide, levels } : undefined })
const SHARP = [
  { value: 180, label: 'none' },
  { value: 60, label: 'above 60°' },
  { value: 30, label: 'above 30°' },
]
const sharpen = (crease: number) =>
  part.value?.subdivide &&
  shape('Sharp edges', {
    subdivide: { levels: part.value.subdivide.levels, ...(crease < 180 ? { crease } : {}) },
  })
</script>

<template>
  <div role="group" aria-label="Shape">
    <h2 class="rule">
      Shape
      <UButton
        v-if="places"
        variant="link"
        class="leave"
        title="The surface stays where it is; the nodes of its displacement are kept"
        @click="leave"
      >
        take off
      </UButton>
    </h2>
    <div v-if="!places" class="property">
      <i />
      <span>Displacement</span>
      <span />
      <UButton
        variant="ghost"
        title="Moves the surface itself, not its shading alone: by a picture or a pattern that you give it as height"
        @click="displace"
      >
        Displace
      </UButton>
    </div>
    <template v-else>
      <PropertyRow
        v-for="r in rows"
        :key="r.node + r.input.name"
        :node="r.node"
        :input="r.input"
        :label="r.label"
        @goto="emit('goto', $event)"
      />
      <div class="property">
        <i />
        <span>Longest edge</span>
        <NumberField
          label="Longest edge"
          :value="part?.edge ?? usual"
          quantity="length"
          unit="mm"
          :low="usual / 16"
          :high="usual * 16"
          :least="1e-6"
          log
          :initial="usual"
          :why="(part?.edge === undefined ? 'By the size of the part. ' : '') + FINER"
          @change="shape('Longest edge', { edge: $event })"
        />
      </div>
    </template>
    <div class="property">
      <i />
      <span>Subdivision</span>
      <span />
      <USelect
        aria-label="Subdivision"
        :model-value="part?.subdivide?.levels ?? 0"
        :items="STEPS"
        :content="CALM"
        @update:model-value="subdivide"
      />
    </div>
    <div v-if="part?.subdivide" class="property">
      <i />
      <span>Sharp edges</span>
      <span />
      <USelect
        aria-label="Sharp edges"
        :model-value="part.subdivide.crease ?? 180"
        :items="SHARP"
        :content="CALM"
        @update:model-value="sharpen"
      />
    </div>
  </div>
</template>

<style scoped>
h2 {
  margin: 6px 0 0;
  padding: 6px 9px 2px;
  font-size: 12px;
  font-weight: 500;
  color: var(--soft);
}
.leave {
  text-decoration: underline dotted;
}
</style>
