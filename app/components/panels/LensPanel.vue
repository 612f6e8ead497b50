<script setup lang="ts">
import { CALM } from '../../input/calm'
import { focalLength, fovOf, SENSOR } from '../../../core/scene/camera'

/** The lens: focal length and sensor, aperture and what is sharp; and how bright light is shown. */
const HELD =
  'Holding fireflies takes light away: the picture gets darker where they are. ' +
  'What the camera sees directly is not held.'
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const stage = useStage()
const TONES = [
  { value: 'plain', label: 'plain sRGB, clipped at white' },
  { value: 'neutral', label: 'Khronos PBR Neutral' },
]
const aim = (): void => void (stage.aiming = stage.aiming === 'focus' ? null : 'focus')
const camera = computed(() => bench.camera)
const change = (to: Partial<NonNullable<typeof camera.value>>) => {
  if (camera.value) stage.setCamera({ ...camera.value, ...to })
}
const focus = computed(() => {
  const c = camera.value
  return c ? (c.focus ?? Math.hypot(...c.target.map((x, k) => x - c.position[k]!))) : 1
})
</script>

<template>
  <FloatingPanel
    v-if="camera"
    name="lens"
    title="Lens"
    :width="330"
    :height="330"
    data-testid="lens-panel"
    @close="emit('close')"
  >
    <template #says>{{ camera.fov.toFixed(1) }}° high</template>
    <div class="scroll">
      <div class="row">
        <span>Focal length</span>
        <NumberField
          label="Focal length"
          :value="focalLength(camera)"
          :low="12"
          :high="300"
          log
          @change="change({ fov: fovOf($event, camera.sensor) })"
        />
        <span>mm</span>
      </div>
      <div class="row">
        <span>Sensor</span>
        <NumberField
          label="Height of the sensor"
          :value="camera.sensor ?? SENSOR"
          :low="4"
          :high="60"
          @change="change({ sensor: $event, fov: fovOf(focalLength(camera), $event) })"
        />
        <span>mm</span>
      </div>
      <div class="row">
        <span>f-number</span>
        <NumberField
          label="f-number, 0 for a pinhole"
          :value="camera.fNumber ?? 0"
          :low="0"
          :high="22"
          @change="change({ fNumber: $event })"
        />
        <span>{{ camera.fNumber ? '' : 'pinhole' }}</span>
      </div>
      <div class="row">
        <span>Sharp at</span>
        <NumberField
          label="Distance that is sharp"
          :value="focus"
          :low="focus / 4"
          :high="focus * 4"
          log
          quantity="length"
          unit="cm"
          @change="change({ focus: $event })"
        />
        <span />
      </div>
      <div class="row">
        <span>Blades</span>
        <NumberField
          label="Blades of the aperture, 0 for a round one"
          :value="camera.blades ?? 0"
          :low="0"
          :high="11"
          @change="change({ blades: Math.round($event) < 3 ? 0 : Math.round($event) })"
        />
        <span>{{ camera.blades ? '' : 'round' }}</span>
      </div>
      <div class="row">
        <UButton class="wide" :class="{ on: stage.aiming === 'focus' }" @click="aim">
          Focus by a click in the picture
        </UButton>
      </div>
      <div class="row">
        <span>Time</span>
        <NumberField
          label="Time of materials that change"
          :value="bench.scene?.time ?? 0"
          :low="0"
          :high="10"
          why="Seconds that a time node gives"
          @change="bench.changeScene('Time', s => ({ ...s, time: $event }), 'time')"
        />
        <span>s</span>
      </div>
      <div class="row">
        <span>Fireflies</span>
        <NumberField
          label="Most that a scattered path may bring, 0 for all of it"
          :value="bench.scene?.clamp ?? 0"
          :low="0"
          :high="20"
          :why="HELD"
          @change="
            bench.changeScene('Fireflies', s => ({ ...s, clamp: $event > 0 ? $event : undefined }), 'clamp')
          "
        />
        <span>{{ bench.scene?.clamp ? '× white' : 'not held' }}</span>
      </div>
      <div class="row rule">
        <span>Shown</span>
        <div class="wide">
          <USelect
            aria-label="How bright light is shown"
            :model-value="stage.neutral ? 'neutral' : 'plain'"
            :items="TONES"
            :content="CALM"
            @update:model-value="tone => (stage.neutral = tone === 'neutral')"
          />
        </div>
      </div>
    </div>
  </FloatingPanel>
</template>

<style scoped>
.scroll {
  padding-bottom: 6px;
}
.row {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr) 84px 50px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px;
}
.wide {
  grid-column: 2 / 5;
  width: 100%;
}
</style>
