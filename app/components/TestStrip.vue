<script setup lang="ts">
import { developPicture } from '../../core/render/display'
import { formatValue } from '../../core/nodes/types'
import { setValue } from '../../core/network/edit'
import { stepsOf } from '../words/steps'
import { writeQuantity } from '../words/units'

/** One number in steps, side by side over the same part: a click takes the value. */
const bench = useBench()
const stage = useStage()
const SIZE = 120
const ROUNDS = 6
const PASSES = 4
const n = bench.strip!
const values = stepsOf(n.value, n.low, n.high)
const canvases = ref<HTMLCanvasElement[]>([])
const rounds = ref(0)
const shown = (v: number) => `${writeQuantity(v, n.quantity, n.unit)}${n.unit ? ' ' + n.unit : ''}`
const withValue = (v: number) =>
  setValue(bench.state!.materials[n.material]!, n.node, n.input, 'float', formatValue('float', [v / n.scale]))
let gone = false

/** Adds some passes to every picture, again and again: each becomes clear at the same pace. */
async function draw(): Promise<void> {
  const s = stage.session
  const part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
  const camera = stage.cameraOn(bench.part)
  if (!s || part < 0 || !camera || !bench.state) return
  const programs = values.map(v => stage.program(withValue(v), bench.scene?.materials[n.material]?.material))
  const sums = values.map(() => new Float32Array(SIZE * SIZE * 3))
  for (let round = 0; round < ROUNDS && !gone; round++) {
    await Promise.all(
      programs.map(async (p, i) => {
        const rgb = await s.swatch(p, stage.maps(p), part, camera, {
          size: SIZE,
          passes: PASSES,
          from: round * PASSES,
        })
        const sum = sums[i]!
        for (let k = 0; k < rgb.length; k++) sum[k] = sum[k]! + rgb[k]!
        const canvas = canvases.value[i]
        const context = canvas?.getContext('2d')
        if (gone || !context) return
        const image = new ImageData(SIZE, SIZE)
        developPicture(sum, stage.exposure - Math.log2(round + 1), image.data, stage.look.balance)
        context.putImageData(image, 0, 0)
      }),
    )
    rounds.value = round + 1
  }
}
onMounted(() => void draw())
onBeforeUnmount(() => {
  gone = true
})
function take(v: number): void {
  bench.edit(`${n.label} from a test strip`, () => withValue(v), undefined, n.material)
  bench.strip = null
}
</script>

<template>
  <div
    class="strip"
    role="dialog"
    :aria-label="`Test strip of ${n.label}`"
    data-testid="test-strip"
    @keydown.esc="bench.strip = null"
    @pointerdown.stop
    @pointerup.stop
  >
    <div class="head">
      <b>Test strip</b>
      <span>{{ n.label }} of {{ n.node }} · {{ rounds * 4 }} samples</span>
      <UButton variant="ghost" aria-label="Close the test strip" @click="void (bench.strip = null)">×</UButton>
    </div>
    <div class="steps">
      <UButton
        v-for="(v, i) in values"
        :key="v"
        class="step"
        :class="{ now: v === +n.value.toPrecision(4) }"
        :title="`Take ${shown(v)}`"
        @click="take(v)"
      >
        <canvas
          :ref="
            el => {
              canvases[i] = el as HTMLCanvasElement
            }
          "
          :width="SIZE"
          :height="SIZE"
        />
        <span>{{ shown(v) }}{{ v === +n.value.toPrecision(4) ? ', as it is' : '' }}</span>
      </UButton>
    </div>
  </div>
</template>

<style scoped>
.strip {
  position: absolute;
  left: 8px;
  right: 8px;
  bottom: 8px;
  background: var(--paper);
  border: 1px solid var(--ink);
}
.steps {
  display: flex;
  gap: 6px;
  padding: 0 9px 8px;
}
.b.step {
  display: block;
  flex: 1 1 0;
  min-width: 0;
  padding: 0;
}
.steps .now {
  outline: 2px solid var(--accent);
}
canvas {
  width: 100%;
  aspect-ratio: 1;
  display: block;
  background: var(--ground);
}
.steps span {
  display: block;
  padding: 2px 4px;
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
