<script setup lang="ts">
import type { Camera } from '../../core/scene/camera'
import type { Geometry } from '../../core/scene/geometry'

/** The edges of the triangles that are traced, over the picture: drawn anew when these or the camera have changed. */
const props = defineProps<{ size: { width: number; height: number } }>()
const bench = useBench()
const stage = useStage()
const canvas = ref<HTMLCanvasElement>()

interface Shown {
  camera: Camera
  geometry: Geometry
  width: number
  height: number
}
const wanted = (): Shown | null =>
  bench.camera && stage.geometry ? { camera: bench.camera, geometry: stage.geometry, ...props.size } : null
const alike = (a: Shown | null, b: Shown | null): boolean =>
  a?.camera === b?.camera && a?.geometry === b?.geometry && a?.width === b?.width && a?.height === b?.height
const shown = shallowRef<Shown | null>(null)
/** Lines of another camera are not shown: they would lie beside what they belong to. */
const stands = computed(() => alike(shown.value, wanted()))
let asking = false

/** Draws the newest, one after the other. */
async function draw(): Promise<void> {
  if (asking) return
  asking = true
  try {
    for (let now = wanted(); now && !alike(now, shown.value) && canvas.value; now = wanted()) {
      const lines = await stage.session!.edges(now.camera, now.width, now.height, now.geometry.part.length)
      if (!canvas.value) return
      if (!lines) {
        await new Promise(requestAnimationFrame)
        continue
      }
      paint(canvas.value, lines, now)
      shown.value = now
    }
  } finally {
    asking = false
  }
}

function paint(to: HTMLCanvasElement, lines: Uint8Array, { width, height }: Shown): void {
  to.width = width
  to.height = height
  const context = to.getContext('2d')!
  const image = context.createImageData(width, height)
  const [r, g, b] = inkOf(to)
  // one word a pixel: red, green, blue from its lowest byte on
  const ink = (b! << 16) | (g! << 8) | r!
  const pixels = new Uint32Array(image.data.buffer)
  for (let i = 0; i < lines.length; i++) pixels[i] = (lines[i]! << 24) | ink
  context.putImageData(image, 0, 0)
}

/** The colour of lines over the picture, as three bytes. */
function inkOf(element: HTMLElement): number[] {
  const [r, g, b] = getComputedStyle(element)
    .color.match(/[\d.]+/g)!
    .map(Number)
  return [r!, g!, b!]
}

watch([() => bench.camera, () => stage.geometry, () => props.size.width, () => props.size.height], draw)
onMounted(draw)
</script>

<template>
  <canvas
    ref="canvas"
    class="fill edges"
    role="img"
    aria-label="Edges of triangles"
    data-testid="triangle-edges"
    :data-stands="stands"
    :style="{ visibility: stands ? 'visible' : 'hidden' }"
  />
</template>

<style scoped>
.edges {
  pointer-events: none;
  color: var(--accent);
}
</style>
