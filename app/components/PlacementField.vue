<script setup lang="ts">
import { findElement } from '../../core/network/document'
import { placementOf, setPlacement, type Placement } from '../../core/network/placement'

/**
 * How a picture lies on the part: what one tile takes, how far it is moved and turned. In lengths along the surface
 * where the part is known, else in units of its coordinates.
 */
const props = defineProps<{ node: string }>()
const bench = useBench()
const stage = useStage()
const element = computed(() => (bench.document ? findElement(bench.document, props.node) : undefined))
const placement = computed(() => element.value && placementOf(element.value))
/** Whether the two sides of a tile keep their proportion. */
const linked = ref(true)
/** Metres of one unit of the coordinates, along u and v; 1 where the part is not known. */
const metres = computed((): readonly [number, number] => {
  const [u, v] = stage.atHand.tile ?? [0, 0]
  return u > 0 && v > 0 ? [u, v] : [1, 1]
})
const known = computed(() => metres.value.some(m => m !== 1))
const counted = ref(false)
const asLengths = computed(() => known.value && !counted.value)
const AXES = [
  { k: 0, tile: 'Tile, along u', count: 'Tiles, along u', offset: 'Offset, right' },
  { k: 1, tile: 'Tile, along v', count: 'Tiles, along v', offset: 'Offset, up' },
] as const

function put(change: Partial<Placement>, what: string): void {
  const p = placement.value
  if (p)
    bench.edit(
      `${what} of ${props.node}`,
      d => setPlacement(d, props.node, { ...p, ...change }),
      `${bench.materialKey}/${props.node}/${what}`,
    )
}
/** A pair with one side changed, and the other along with it where they are linked. */
function changed(pair: readonly [number, number], k: 0 | 1, v: number, along: boolean): readonly [number, number] {
  const other = along && pair[k] !== 0 ? (pair[1 - k]! * v) / pair[k] : pair[1 - k]!
  return k === 0 ? [v, other] : [other, v]
}
const tile = (k: 0 | 1, v: number) => {
  if (v > 0) put({ tile: changed(placement.value!.tile, k, v, linked.value) }, 'Tile')
}
</script>

<template>
  <div v-if="placement" class="placement" data-testid="placement">
    <div v-for="a in AXES" :key="a.tile" class="property">
      <i />
      <span>{{ asLengths ? a.tile : a.count }}</span>
      <NumberField
        v-if="asLengths"
        :label="a.tile"
        :value="placement.tile[a.k] * metres[a.k]"
        quantity="length"
        unit="cm"
        :low="1e-3"
        :high="1"
        :least="1e-6"
        log
        @change="tile(a.k, $event / metres[a.k])"
      />
      <NumberField
        v-else
        :label="a.count"
        :value="1 / placement.tile[a.k]"
        :low="0.1"
        :high="100"
        :least="1e-6"
        log
        @change="tile(a.k, 1 / $event)"
      />
    </div>
    <div class="property">
      <i />
      <span>Tiles</span>
      <span class="many">
        <UCheckbox v-model="linked" label="in proportion" />
        <UCheckbox v-if="known" v-model="counted" label="counted" />
      </span>
    </div>
    <div v-for="a in AXES" :key="a.offset" class="property">
      <i />
      <span>{{ a.offset }}</span>
      <NumberField
        :label="a.offset"
        :value="placement.offset[a.k] * (asLengths ? metres[a.k] : 1)"
        :quantity="asLengths ? 'length' : 'plain'"
        :unit="asLengths ? 'cm' : ''"
        :low="-placement.tile[a.k] * (asLengths ? metres[a.k] : 1)"
        :high="placement.tile[a.k] * (asLengths ? metres[a.k] : 1)"
        :initial="0"
        @change="
          put({ offset: changed(placement.offset, a.k, $event / (asLengths ? metres[a.k] : 1), false) }, 'Offset')
        "
      />
    </div>
    <div class="property">
      <i />
      <span title="Counter-clockwise, about the pivot">Turn</span>
      <NumberField
        label="Turn"
        :value="placement.turn"
        quantity="angle"
        unit="°"
        :low="-180"
        :high="180"
        :initial="0"
        @change="put({ turn: $event }, 'Turn')"
      />
    </div>
  </div>
</template>

<style scoped>
.many {
  grid-column: 3 / 5;
  display: flex;
  gap: 12px;
}
</style>
