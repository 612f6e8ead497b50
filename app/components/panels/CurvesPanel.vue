<script setup lang="ts">
import { CALM } from '../../input/calm'
import { compileMaterial } from '../../../core/world/compile-material'
import { compileNetwork, type Program } from '../../../core/network/compile'
import { specimens } from '../../../core/network/specimens'
import { COMPONENTS, linesByAngle, linesByWavelength, type Line } from '../../curves/curve-lines'

/** Curves of the selected layer or of the whole stack, beside a specimen if wished. */
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const angle = ref(45)
const whole = ref(true)
const NOTHING = 'nothing'
const chosen = ref(NOTHING)
const choices = [{ value: NOTHING, label: 'nothing' }, ...specimens.map(s => ({ value: s.key, label: s.title }))]
const beside = computed(() => (chosen.value === NOTHING ? '' : chosen.value))

const program = computed((): Program | null => {
  if (!bench.document) return null
  return whole.value
    ? compileMaterial(bench.document, bench.materialName)
    : bench.selectedLayer
      ? compileNetwork(bench.document, bench.selectedLayer.surface)
      : null
})
const other = computed((): Program | null => {
  const s = specimens.find(x => x.key === beside.value)
  return s ? compileMaterial(s.make()) : null
})
const mine = useCurves(
  () => program.value,
  () => angle.value,
)
const theirs = useCurves(
  () => other.value,
  () => angle.value,
  64,
)

const byAngle = computed(() => [
  ...linesByAngle(mine.curves.value),
  ...linesByAngle(theirs.curves.value, 'dashed', false),
])
const byWavelength = computed(() => [
  ...linesByWavelength(mine.curves.value),
  ...linesByWavelength(theirs.curves.value, 'dashed', false),
])
const lobe = computed((): Line[] => {
  const l = mine.curves.value?.lobe
  if (!l?.degrees.length) return []
  // square roots: a highlight and the body below it in one picture
  const most = Math.sqrt(Math.max(1e-6, ...l.values.flat()))
  return [
    ...COMPONENTS.map(([, colour], k): Line => ({
      name: ['blue', 'green', 'red'][k]!,
      colour,
      points: l.degrees.map((d, i) => [d, Math.sqrt(Math.max(0, l.values[i]![2 - k]!)) / most]),
    })),
    {
      name: 'light',
      colour: '--ink',
      points: [
        [-angle.value, 0],
        [-angle.value, 1],
      ],
    },
  ]
})
</script>

<template>
  <FloatingPanel
    name="curves"
    title="Curves"
    :width="1100"
    :height="262"
    data-testid="curves-panel"
    @close="emit('close')"
  >
    <template #says>
      <span class="name"
        >{{ whole ? bench.materialKey : (bench.selectedLayer?.title ?? 'no layer')
        }}<template v-if="program"> · maps as at the origin</template>
        <template v-if="mine.busy.value"> · computing</template>
      </span>
      <label class="small"> <input v-model="whole" type="radio" :value="true" name="curves-of" /> stack</label>
      <label class="small"> <input v-model="whole" type="radio" :value="false" name="curves-of" /> layer</label>
    </template>
    <p v-if="mine.fault.value" role="alert" class="pad">{{ mine.fault.value }}</p>
    <div class="three">
      <figure>
        <figcaption class="small">back against angle</figcaption>
        <CurveChart
          label="Reflectance against angle of incidence"
          :lines="byAngle"
          :x="{ name: 'degrees', low: 0, high: 90 }"
        />
      </figure>
      <figure>
        <figcaption class="small">back against wavelength at {{ angle }}°</figcaption>
        <CurveChart
          label="Reflectance against wavelength"
          :lines="byWavelength"
          :x="{ name: 'nm', low: 380, high: 780 }"
        />
      </figure>
      <figure>
        <figcaption class="small">shape at {{ angle }}°, drag the ray</figcaption>
        <CurveChart
          label="Shape of the scattering in the plane of incidence"
          :lines="lobe"
          polar
          @turn="angle = $event"
        />
      </figure>
    </div>
    <div class="foot">
      <span>Light from</span>
      <NumberField
        label="Angle of incidence"
        :value="angle"
        :low="0"
        :high="88"
        unit="°"
        quantity="angle"
        @change="angle = Math.round($event)"
      />
      <label class="small"
        >beside
        <USelect v-model="chosen" aria-label="Specimen beside it" :items="choices" :content="CALM" />
      </label>
      <span class="small keys"> <CurveKey /> dotted: through{{ beside ? ', dashed: beside' : '' }}</span>
    </div>
  </FloatingPanel>
</template>

<style scoped>
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.three {
  flex: 1;
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 6px;
  min-height: 0;
  padding: 0 8px;
}
figure {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  margin: 0;
}
.foot {
  display: grid;
  grid-template-columns: auto minmax(60px, 120px) 60px auto 1fr;
  gap: 7px;
  align-items: center;
  padding: 4px 8px 6px;
}
.foot select {
  max-width: 150px;
}
.keys {
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.pad {
  padding: 2px 9px;
  margin: 0;
}
@container (max-width: 520px) {
  .three {
    grid-template-columns: 1fr;
    grid-auto-rows: minmax(0, 1fr);
  }
  .foot {
    grid-template-columns: auto 1fr 60px;
  }
  .foot > .small {
    grid-column: 1 / -1;
    text-align: left;
  }
}
</style>
