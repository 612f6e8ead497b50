<script setup lang="ts">
import { CALM } from '../input/calm'
import { SKY_TYPES } from '../../core/light/sky'
import type { Rig } from '../../core/scene/rig'
import { evOf } from '../words/units'

const KINDS = [
  { value: 'uniform', label: 'plain colour' },
  { value: 'picture', label: 'picture …' },
  { value: 'sky', label: 'sky and sun' },
]
const TYPES = SKY_TYPES.map((t, i) => ({ value: i + 1, label: `${i + 1}: ${t}` }))

/** What surrounds the model: a plain colour, a picture, or a sky with its sun. */
const props = defineProps<{ environment: Rig['environment']; missing: boolean }>()
const emit = defineEmits<{ change: [label: string, to: Rig['environment'], key?: string]; picture: [] }>()
const uniform = computed(() => (props.environment.kind === 'uniform' ? props.environment.radiance : [0, 0, 0]))
/** Strength of a uniform environment apart from its colour: its largest component. */
const strength = computed(() => Math.max(...uniform.value))
const colour = (c: number[], level = strength.value) => {
  const most = Math.max(...c) || 1
  emit(
    'change',
    'Colour of the environment',
    { kind: 'uniform', radiance: c.map(x => +((x / most) * level).toPrecision(5)) as [number, number, number] },
    'environment',
  )
}
const edit = (label: string, to: Partial<Rig['environment']>) =>
  emit('change', label, { ...props.environment, ...to } as Rig['environment'], 'environment')
function become(kind: string): void {
  if (kind === 'picture') emit('picture')
  else if (kind === 'sky')
    emit('change', 'Sky', {
      kind: 'sky',
      type: 12,
      scale: 0.6,
      elevation: 40,
      azimuth: 30,
      sun: 2,
      temperature: 9000,
      ground: 0.1,
    })
  else colour([1, 1, 1], 0.5)
}
</script>

<template>
  <div class="row">
    <span>Kind</span>
    <USelect
      class="wide"
      aria-label="Kind of the environment"
      :model-value="environment.kind === 'image' ? 'picture' : environment.kind"
      :items="KINDS"
      :content="CALM"
      @update:model-value="become"
    />
  </div>
  <template v-if="environment.kind === 'image'">
    <div class="row">
      <span>Picture</span>
      <span class="wide name" :title="environment.file ?? environment.asset"
        >{{ environment.file ?? 'picture' }}{{ missing ? ', not here: choose it again' : '' }}</span
      >
    </div>
    <div class="row">
      <span>Exposure</span>
      <NumberField
        label="Exposure of the environment"
        :value="evOf(environment.scale)"
        :low="-8"
        :high="8"
        @change="edit('Environment picture', { scale: 2 ** $event })"
      />
      <span>EV</span>
    </div>
    <div class="row">
      <span>Rotation</span>
      <NumberField
        label="Rotation of the environment"
        :value="environment.turn"
        :low="0"
        :high="360"
        @change="edit('Environment picture', { turn: $event })"
      />
      <span>°</span>
    </div>
  </template>
  <template v-else-if="environment.kind === 'sky'">
    <div class="row">
      <span>Sky</span>
      <USelect
        class="wide"
        aria-label="Type of the sky, ISO 15469"
        title="Type of ISO 15469"
        :model-value="environment.type"
        :items="TYPES"
        :content="CALM"
        @update:model-value="type => edit('Type of the sky', { type })"
      />
    </div>
    <div class="row">
      <span>Level</span>
      <NumberField
        label="Level of the sky"
        :value="environment.scale"
        :low="0"
        :high="2"
        @change="edit('Level of the sky', { scale: $event })"
      />
      <span />
    </div>
    <div class="row">
      <span>Sky colour</span>
      <NumberField
        label="Temperature of the sky"
        :value="environment.temperature"
        :low="4000"
        :high="20000"
        quantity="temperature"
        @change="edit('Colour of the sky', { temperature: Math.round($event) })"
      />
      <span>K</span>
    </div>
    <div class="row">
      <span>Sun</span>
      <NumberField
        label="Level of the sun"
        :value="environment.sun"
        :low="0"
        :high="5"
        @change="edit('Level of the sun', { sun: $event })"
      />
      <span />
    </div>
    <div class="row">
      <span>Elevation</span>
      <NumberField
        label="Elevation of the sun"
        :value="environment.elevation"
        :low="0"
        :high="90"
        @change="edit('Elevation of the sun', { elevation: $event })"
      />
      <span>°</span>
    </div>
    <div class="row">
      <span>Azimuth</span>
      <NumberField
        label="Azimuth of the sun"
        :value="environment.azimuth"
        :low="-180"
        :high="180"
        @change="edit('Azimuth of the sun', { azimuth: $event })"
      />
      <span>°</span>
    </div>
  </template>
  <template v-else>
    <div class="row colour">
      <span>Colour</span>
      <ColourField
        label="Colour of the environment"
        :value="uniform.map(x => x / (strength || 1))"
        @change="colour"
      />
    </div>
    <div class="row">
      <span>Level</span>
      <NumberField
        label="Level of the environment"
        :value="strength"
        :low="0"
        :high="2"
        @change="colour(strength ? uniform : [1, 1, 1], $event)"
      />
      <span />
    </div>
  </template>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) 84px 22px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px;
}
.row.colour {
  grid-template-columns: 76px minmax(0, 1fr) 113px;
}
.wide {
  grid-column: 2 / 5;
  min-width: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
