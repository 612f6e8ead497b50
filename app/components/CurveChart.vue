<script setup lang="ts">
import type { Line } from '../curves/curve-lines'

/**
 * One chart: lines over an axis, or in polar form. Colours come from what the lines stand for; each also has a
 * dash of its own.
 */
const props = defineProps<{
  label: string
  lines: Line[]
  x?: { name: string; low: number; high: number }
  polar?: boolean
}>()
const emit = defineEmits<{ turn: [degrees: number] }>()
const host = ref<HTMLDivElement>()
type Chart = { setOption(o: object, notMerge?: boolean): void; resize(): void; dispose(): void }
let chart: Chart | null = null
let observer: ResizeObserver | undefined
let gone = false

function draw(): void {
  if (!chart || !host.value) return
  const style = getComputedStyle(host.value)
  const ofTheme = (property: string) => style.getPropertyValue(property).trim()
  const ink = ofTheme('--ink')
  const rule = ofTheme('--rule')
  const font = { color: ink, fontFamily: style.fontFamily, fontSize: 11 }
  const axis = {
    axisLine: { lineStyle: { color: ink } },
    axisLabel: font,
    splitLine: { lineStyle: { color: rule, opacity: 0.35 } },
    nameTextStyle: font,
  }
  const series = props.lines.map(l => ({
    type: 'line',
    name: l.name,
    data: props.polar ? l.points.map(([d, r]) => [r, d]) : l.points,
    coordinateSystem: props.polar ? 'polar' : 'cartesian2d',
    showSymbol: false,
    lineStyle: { color: ofTheme(l.colour), width: 1.6, type: l.dash ?? 'solid' },
    itemStyle: { color: ofTheme(l.colour) },
    animation: false,
  }))
  chart.setOption(
    props.polar
      ? {
          polar: { radius: '76%' },
          angleAxis: {
            type: 'value',
            min: -180,
            max: 180,
            startAngle: 270,
            clockwise: true,
            interval: 30,
            ...axis,
            axisLabel: { ...font, formatter: (d: number) => `${d}°` },
          },
          radiusAxis: { min: 0, ...axis, axisLabel: { show: false } },
          series,
          animation: false,
        }
      : {
          grid: { left: 34, right: 10, top: 12, bottom: 30 },
          tooltip: { trigger: 'axis', confine: true, valueFormatter: (v: number) => v.toFixed(3) },
          xAxis: {
            type: 'value',
            min: props.x!.low,
            max: props.x!.high,
            name: props.x!.name,
            nameLocation: 'middle',
            nameGap: 18,
            ...axis,
          },
          yAxis: { type: 'value', min: 0, max: 1, ...axis },
          series,
          animation: false,
        },
    true,
  )
}
onMounted(async () => {
  const { init } = await import('../curves/charts')
  if (gone || !host.value) return
  chart = init(host.value, undefined, { renderer: 'svg' }) as unknown as Chart
  observer = new ResizeObserver(() => chart?.resize())
  observer.observe(host.value)
  draw()
})
watch(() => props.lines, draw)
onBeforeUnmount(() => {
  gone = true
  observer?.disconnect()
  chart?.dispose()
})

/** The ray of the polar form follows the pointer: the side that light comes from is to the left. */
function drag(e: PointerEvent): void {
  if (!props.polar || !host.value || e.buttons !== 1) return
  const box = host.value.getBoundingClientRect()
  const x = e.clientX - box.left - box.width / 2
  const y = box.top + box.height / 2 - e.clientY
  emit('turn', Math.min(88, Math.max(0, Math.round((Math.abs(Math.atan2(x, y)) * 180) / Math.PI))))
}
</script>

<template>
  <div
    ref="host"
    class="chart"
    :class="{ polar }"
    role="img"
    :aria-label="label"
    @pointerdown="drag"
    @pointermove="drag"
  />
</template>

<style scoped>
.chart {
  width: 100%;
  height: 100%;
  min-height: 120px;
}
.chart.polar {
  cursor: crosshair;
  touch-action: none;
}
</style>
