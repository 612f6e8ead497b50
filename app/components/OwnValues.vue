<script setup lang="ts">
import { formatValue, parseValue, unitScale } from '../../core/nodes/types'
import { toWorkingSpace } from '../../core/maps/colour-spaces'
import { publishedOf, type Published } from '../../core/scene/part-values'
import { ownUnit, rangeOf } from '../words/labels'

/** What the material of the part at hand publishes, with the part's own values where it has any. */
const bench = useBench()
const part = computed(() => bench.scene?.parts.find(p => p.name === bench.part))
const rows = computed(() =>
  (bench.document ? publishedOf(bench.document) : []).map(p => {
    const own = part.value?.values?.[p.key]
    const numbers = parseValue(p.type, own ?? p.value) ?? [0]
    const scale = (unitScale(p.unit) ?? 1) * ownUnit({ name: p.input, type: p.type })
    return {
      ...p,
      own: own !== undefined,
      scale,
      numbers: p.type.startsWith('color') ? toWorkingSpace(numbers, p.colorspace) : numbers.map(x => x * scale),
      range: rangeOf({ name: p.input, type: p.type }),
    }
  }),
)
const put = (p: Published & { scale: number }, values: number[]) => {
  if (part.value)
    bench.setOwnValue(
      part.value.name,
      p.key,
      formatValue(p.type, p.type.startsWith('color') ? values : values.map(v => v / p.scale)),
    )
}
</script>

<template>
  <div v-if="rows.length" class="own" role="group" aria-label="Own values of the part">
    <span class="small">Own values of {{ bench.part }}</span>
    <div v-for="r in rows" :key="r.key" class="row" :data-own="r.key">
      <span class="name" :title="r.label">{{ r.label }}</span>
      <span class="value">
        <ColourField v-if="r.type === 'color3'" :label="r.label" :value="r.numbers" @change="put(r, $event)" />
        <NumberField
          v-else-if="r.numbers.length === 1"
          :label="r.label"
          :value="r.numbers[0]!"
          v-bind="r.range"
          :slider="false"
          @change="put(r, [$event])"
        />
        <span v-else class="small">{{ r.value }}</span>
      </span>
      <UButton
        variant="ghost"
        :disabled="!r.own"
        :title="r.own ? 'As the material has it' : 'As the material has it already'"
        :aria-label="`Take back the own value of ${r.label}`"
        @click="bench.setOwnValue(bench.part!, r.key, undefined)"
      >
        <UIcon name="i-lucide-undo-2" />
      </UButton>
    </div>
  </div>
</template>

<style scoped>
.own {
  padding-top: 6px;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 24px;
  align-items: center;
  gap: 0 3px;
  padding-bottom: 2px;
}
.name {
  grid-column: 1 / 3;
  font-size: 12px;
  line-height: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.value {
  display: flex;
  min-width: 0;
}
.value :deep(.lin),
.value :deep(span:empty) {
  display: none;
}
.q:disabled {
  opacity: 0.3;
}
</style>
