// Draws docs/plots from what `node --expose-gc scripts/cli.mjs benchmark scale --json` printed: node
// scripts/bundle.mjs scripts/plot-performance.ts FILE.json
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import * as echarts from 'echarts'
import { z } from 'zod'

const series = z.array(z.object({ value: z.number(), microsecondsASample: z.number() }))
const scale = z
  .object({
    rows: z.array(z.object({ triangles: z.number(), microsecondsASample: z.number() })),
    pixels: series,
    passes: series,
    noises: series,
    panels: series,
  })
  .parse(JSON.parse(readFileSync(process.argv[2]!, 'utf8')))

/** One curve on paper, in our ink: time of a sample over something. */
function draw(
  file: string,
  over: string,
  points: [number, number][],
  log: boolean,
  extra: { name: string; points: [number, number][] }[] = [],
): void {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: 560, height: 300 })
  const ink = '#1c1c1c'
  chart.setOption({
    animation: false,
    backgroundColor: '#f2f1ee',
    textStyle: { fontFamily: 'sans-serif', color: ink },
    grid: { left: 60, right: 24, top: 30, bottom: 46 },
    legend: extra.length ? { top: 4, right: 20 } : undefined,
    xAxis: {
      type: log ? 'log' : 'value',
      logBase: 2,
      min: 'dataMin',
      max: 'dataMax',
      name: over,
      nameLocation: 'middle',
      nameGap: 28,
      axisLine: { lineStyle: { color: ink } },
      axisLabel: {
        formatter: (n: number) =>
          n >= 1e6
            ? `${+(n / 1e6).toPrecision(2)} M`
            : n >= 1000
              ? `${+(n / 1000).toPrecision(2)} k`
              : String(Math.round(n)),
      },
    },
    yAxis: {
      type: 'value',
      min: 0,
      name: 'µs a sample',
      axisLine: { show: true, lineStyle: { color: ink } },
      splitLine: { lineStyle: { color: '#d5d3cd' } },
    },
    series: [
      {
        name: 'measured',
        type: 'line',
        data: points,
        symbol: 'circle',
        symbolSize: 6,
        itemStyle: { color: ink },
        lineStyle: { color: ink, width: 1.5 },
      },
      ...extra.map(e => ({
        name: e.name,
        type: 'line' as const,
        data: e.points,
        symbol: 'none',
        lineStyle: { color: ink, width: 1, type: 'dashed' as const },
        itemStyle: { color: ink },
      })),
    ],
  })
  writeFileSync(`docs/plots/${file}.svg`, chart.renderToSVGString())
  chart.dispose()
}

mkdirSync('docs/plots', { recursive: true })
const first = scale.rows[0]!
const points = (s: z.infer<typeof series>): [number, number][] => s.map(p => [p.value, p.microsecondsASample])
draw(
  'triangles',
  'triangles of the scene',
  scale.rows.map(r => [r.triangles, r.microsecondsASample]),
  true,
  [
    {
      name: 'growing with log₂',
      points: scale.rows.map(r => [
        r.triangles,
        (first.microsecondsASample * Math.log2(r.triangles)) / Math.log2(first.triangles),
      ]),
    },
  ],
)
draw('pixels', 'pixels of the picture', points(scale.pixels), true)
draw('samples', 'passes', points(scale.passes), true)
draw('nodes', 'noises in the network, two or three nodes each', points(scale.noises), false)
draw('lights', 'panels of the rig', points(scale.panels), false)
