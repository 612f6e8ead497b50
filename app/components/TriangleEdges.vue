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
  const ink = inkOf(to)
  lines.forEach((line, i) => image.data.set([...ink, line], i * 4))
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
    class="edges"
    role="img"
    aria-label="Edges of triangles"
    data-testid="triangle-edges"
    :data-stands="stands"
    :style="{ visibility: stands ? 'visible' : 'hidden' }"
  />
</template>

<style scoped>
.edges {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  color: var(--accent);
}
</style>
