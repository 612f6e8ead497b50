<script setup lang="ts">
import { CALM } from '../input/calm'
import { luminanceAt } from '../../core/colour/luminance'
import { colourOfTemperature } from '../../core/colour/temperature'
import type { Panel } from '../../core/scene/rig'
import { coneShare, placeOf, placed } from '../lights/place-panel'

/**
 * A panel or blocker of the light rig: how it shines and where it stands, as seen from the middle of the model,
 * which it faces.
 */
const SHAPES: NonNullable<Panel['shape']>[] = ['rectangle', 'disc', 'ball', 'sun']
const props = defineProps<{ panel: Panel; groups: readonly string[]; middle: readonly number[] }>()
const stage = useStage()
const aim = (): void => void (stage.aiming = stage.aiming === 'mirror' ? null : 'mirror')
const emit = defineEmits<{
  change: [edit: (p: Panel) => Panel, key: string]
  group: [name: string]
  repeat: [across: number, down: number, apart: number]
  remove: []
}>()
const list = useId()
/** How often the panel is repeated along its edges, and how far from middle to middle, metres. */
const across = ref(4)
const down = ref(1)
const apart = ref<number>()
const step = computed(() => apart.value ?? 1.25 * Math.max(place.value.width, place.value.height))
const whole = (n: number) => Math.min(64, Math.max(1, Math.round(n)))
const place = computed(() => placeOf(props.panel, props.middle))
const most = computed(() => Math.max(...props.panel.radiance) || 1)
const tint = (c: readonly number[], temperature?: number) => {
  const peak = Math.max(...c) || 1
  emit(
    'change',
    ({ temperature: _, ...p }) => ({
      ...p,
      ...(temperature ? { temperature } : {}),
      radiance: c.map(x => +((x / peak) * most.value).toPrecision(6)) as [number, number, number],
    }),
    'tint',
  )
}
/**
 * Lumens that the panel sends out: its luminance times its area times the steradians it shines into, soft edges
 * not counted.
 */
const ball = computed(() => props.panel.shape === 'ball')
const cone = computed(() => props.panel.cone ?? [180, 180])
const area = computed(
  () =>
    place.value.width *
    (ball.value ? place.value.width : place.value.height) *
    (props.panel.shape === 'rectangle' || !props.panel.shape ? 1 : Math.PI / 4),
)
/** Steradians that light leaves into, of a flat panel weighed with the cosine. */
const solid = computed(() => (ball.value ? 4 * Math.PI * coneShare(cone.value) : Math.PI))
const flux = computed(() => solid.value * area.value * luminanceAt(props.panel.radiance, 0))
/** Sets one angle of the cone; the outer one is never the smaller. */
const spread = (k: 0 | 1, degrees: number) =>
  put({
    cone: k === 0 ? [degrees, Math.max(degrees, cone.value[1]!)] : [Math.min(degrees, cone.value[0]!), degrees],
  })
const shine = (lumens: number) => {
  const by = lumens / (flux.value || 1)
  emit(
    'change',
    p => ({ ...p, radiance: p.radiance.map(x => +(x * by).toPrecision(6)) as [number, number, number] }),
    'flux',
  )
}
const move = (what: Partial<typeof place.value>) =>
  emit('change', p => placed(p, { ...place.value, ...what }, props.middle), `place ${Object.keys(what)[0]}`)
const put = (what: Partial<Panel>) => emit('change', p => ({ ...p, ...what }), Object.keys(what)[0]!)
</script>

<template>
  <div class="row">
    <span>Name</span>
    <input
      class="b wide"
      :aria-label="`Name of ${panel.name}`"
      maxlength="100"
      :value="panel.name"
      @change="put({ name: ($event.target as HTMLInputElement).value.trim() || panel.name })"
    />
  </div>
  <template v-if="!panel.blocks">
    <div class="row colour">
      <span>Colour</span>
      <ColourField
        :label="`Colour of ${panel.name}`"
        :value="panel.radiance.map(x => x / most)"
        @change="tint($event)"
      />
    </div>
    <div class="row">
      <span>Temperature</span>
      <NumberField
        :label="`Temperature of ${panel.name}`"
        :value="panel.temperature ?? 6500"
        :low="1800"
        :high="12000"
        quantity="temperature"
        @change="tint(colourOfTemperature($event), Math.round($event))"
      />
      <span>K</span>
    </div>
    <div v-if="panel.shape !== 'sun'" class="row">
      <span>Flux</span>
      <NumberField
        :label="`Flux of ${panel.name}`"
        :value="flux"
        :low="flux / 64 || 0.001"
        :high="flux * 64 || 1"
        log
        quantity="flux"
        unit="lm"
        why="Lumens, or watts of light as you type them: luminance 1 is 1 cd/m²"
        @change="shine($event)"
      />
      <span />
    </div>
    <div v-if="!ball" class="row">
      <span>Soft edge</span>
      <NumberField
        :label="`Soft edge of ${panel.name}`"
        :value="panel.soft ?? 0"
        :low="0"
        :high="1"
        @change="put({ soft: $event })"
      />
      <span />
    </div>
  </template>
  <div class="row">
    <span>Shape</span>
    <USelect
      class="wide"
      :aria-label="`Shape of ${panel.name}`"
      :model-value="panel.shape ?? 'rectangle'"
      :items="SHAPES"
      :content="CALM"
      @update:model-value="shape => put({ shape })"
    />
  </div>
  <template v-if="ball && !panel.blocks">
    <div class="row">
      <span>Cone within</span>
      <NumberField
        :label="`Inner cone of ${panel.name}`"
        :value="cone[0]!"
        :low="0"
        :high="180"
        why="Degrees from the axis up to which it shines whole; 180 is all around"
        @change="spread(0, $event)"
      />
      <span>°</span>
    </div>
    <div class="row">
      <span>Cone to</span>
      <NumberField
        :label="`Outer cone of ${panel.name}`"
        :value="cone[1]!"
        :low="0"
        :high="180"
        why="Degrees from the axis beyond which it sends nothing"
        @change="spread(1, $event)"
      />
      <span>°</span>
    </div>
  </template>
  <div class="row">
    <span>Around</span>
    <NumberField
      :label="`Azimuth of ${panel.name}`"
      :value="place.azimuth"
      :low="-180"
      :high="180"
      @change="move({ azimuth: $event })"
    />
    <span>°</span>
  </div>
  <div class="row">
    <span>Up</span>
    <NumberField
      :label="`Elevation of ${panel.name}`"
      :value="place.elevation"
      :low="-85"
      :high="85"
      @change="move({ elevation: $event })"
    />
    <span>°</span>
  </div>
  <div class="row">
    <span>Away</span>
    <NumberField
      :label="`Distance of ${panel.name}`"
      :value="place.distance"
      :low="place.distance / 4"
      :high="place.distance * 4"
      log
      quantity="length"
      unit="cm"
      @change="move({ distance: $event })"
    />
    <span />
  </div>
  <div class="row">
    <span>{{ ball ? 'Diameter' : 'Width' }}</span>
    <NumberField
      :label="`${ball ? 'Diameter' : 'Width'} of ${panel.name}`"
      :value="place.width"
      :low="place.width / 8"
      :high="place.width * 4"
      log
      quantity="length"
      unit="cm"
      @change="move(ball ? { width: $event, height: $event } : { width: $event })"
    />
    <span />
  </div>
  <div v-if="!ball" class="row">
    <span>Height</span>
    <NumberField
      :label="`Height of ${panel.name}`"
      :value="place.height"
      :low="place.height / 8"
      :high="place.height * 4"
      log
      quantity="length"
      unit="cm"
      @change="move({ height: $event })"
    />
    <span />
  </div>
  <div class="row">
    <UCheckbox
      class="wide"
      label="Seen by the camera"
      :model-value="panel.visible"
      @update:model-value="on => put({ visible: on === true })"
    />
  </div>
  <div class="row">
    <span class="wide">
      <UButton
        :class="{ on: stage.aiming === 'mirror' }"
        :aria-pressed="stage.aiming === 'mirror'"
        title="Click a spot of the model: the panel moves to where it is mirrored there"
        @click="aim"
      >
        Mirror it at a spot
      </UButton>
    </span>
  </div>
  <div class="row">
    <span>Group</span>
    <UInput
      class="wide"
      :list="list"
      :aria-label="`Group of ${panel.name}`"
      title="Panels of a group are dimmed, seen alone and kept apart in pictures together"
      maxlength="100"
      :model-value="panel.group ?? ''"
      @change="emit('group', ($event.target as HTMLInputElement).value)"
    />
    <datalist :id="list">
      <option v-for="g in groups" :key="g" :value="g" />
    </datalist>
  </div>
  <template v-if="panel.shape !== 'sun'">
    <div class="row">
      <span>Across</span>
      <NumberField
        :label="`How many of ${panel.name} across`"
        :value="across"
        :low="1"
        :high="16"
        :least="1"
        @change="across = whole($event)"
      />
      <span />
    </div>
    <div class="row">
      <span>Down</span>
      <NumberField
        :label="`How many of ${panel.name} down`"
        :value="down"
        :low="1"
        :high="16"
        :least="1"
        @change="down = whole($event)"
      />
      <span />
    </div>
    <div class="row">
      <span>Apart</span>
      <NumberField
        :label="`From one ${panel.name} to the next`"
        :value="step"
        :low="step / 8"
        :high="step * 4"
        log
        quantity="length"
        unit="cm"
        why="From middle to middle, along its own edges"
        @change="apart = $event"
      />
      <span />
    </div>
    <div class="row">
      <span class="wide">
        <UButton
          :disabled="across * down < 2"
          title="Copies along its own edges, in one group with it"
          @click="emit('repeat', across, down, step)"
        >
          Repeat to {{ across * down }}
        </UButton>
      </span>
    </div>
  </template>
  <div class="row">
    <span class="wide">
      <UButton @click="emit('remove')">Take {{ panel.name }} away</UButton>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) 84px 22px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px 0 18px;
}
.row.colour {
  grid-template-columns: 76px minmax(0, 1fr) 113px;
}
.wide {
  grid-column: 2 / 5;
  min-width: 0;
}
</style>
