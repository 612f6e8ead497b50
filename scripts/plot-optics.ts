// Draws the plots of docs/optics.md from the core:  node scripts/bundle.mjs scripts/plot-optics.ts
import { mkdirSync, writeFileSync } from 'node:fs'
import * as echarts from 'echarts'
import { measure } from '../core/judge/measure'
import { conductorByName, conductorK, conductorN } from '../core/optics/conductors'
import { GLASS_NAMES, glassN } from '../core/optics/glasses'
import { filmReflectance } from '../core/optics/thin-film'
import { materialOf, mtlx, pbr } from '../core/testing/setup'
import { skyOfType } from '../core/light/sky'

type Line = { name: string; points: [number, number][]; dots?: boolean; dash?: boolean }
function draw(
  file: string,
  x: string,
  y: string,
  lines: Line[],
  range: { yMin?: number; yMax?: number } = {},
): void {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: 560, height: 300 })
  const inks = ['#1c1c1c', '#8a2f1d', '#1d4e8a', '#3c6b2f']
  chart.setOption({
    animation: false,
    backgroundColor: '#f2f1ee',
    textStyle: { fontFamily: 'sans-serif', color: inks[0] },
    grid: { left: 56, right: 20, top: 34, bottom: 44 },
    legend: { top: 4, right: 20, itemWidth: 18, itemHeight: 8 },
    xAxis: { type: 'value', min: 'dataMin', max: 'dataMax', name: x, nameLocation: 'middle', nameGap: 26 },
    yAxis: {
      type: 'value',
      min: range.yMin ?? 0,
      max: range.yMax,
      name: y,
      splitLine: { lineStyle: { color: '#d5d3cd' } },
    },
    series: lines.map((l, i) => ({
      name: l.name,
      type: l.dots ? ('scatter' as const) : ('line' as const),
      data: l.points,
      symbol: l.dots ? 'circle' : 'none',
      symbolSize: 5,
      lineStyle: {
        color: inks[(l.dash ? i - 1 : i) % 4],
        width: 1.5,
        type: l.dash ? ('dashed' as const) : ('solid' as const),
      },
      itemStyle: { color: inks[i % 4] },
    })),
  })
  writeFileSync(`docs/plots/${file}.svg`, chart.renderToSVGString())
  chart.dispose()
}
mkdirSync('docs/plots', { recursive: true })
const every = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step)
const of = (body: string) => {
  const m = materialOf(mtlx(body), 's')
  return (angles: number[], wavelengths: number[], samples = 16) =>
    measure(m.shader, m.constants, { angles, wavelengths, from: 'outside', samples, colour: false })
}

// films: what the renderer measures beside Airy's sum
const nm = every(400, 700, 10)
const titanium = conductorByName('titanium')
const tinted = of(
  `<wl_metal name="s" type="surfaceshader"><input name="metal" type="string" value="titanium"/>
    <input name="roughness" type="float" value="0"/><input name="film_thickness" type="float" value="120"/>
    <input name="film_ior" type="float" value="2.4"/></wl_metal>`,
)
draw(
  'film',
  'nm',
  'reflectance',
  [0, 60].flatMap((angle): Line[] => {
    const m = tinted([angle], nm)
    return [
      { name: `measured at ${angle}°`, dots: true, points: nm.map((w, i) => [w, m.reflectance[0]![i]!]) },
      {
        name: `Airy ${angle}°`,
        points: every(400, 700, 2).map(w => [
          w,
          filmReflectance(
            Math.cos((angle * Math.PI) / 180),
            2.4,
            conductorN[titanium]![w - 380]!,
            conductorK[titanium]![w - 380]!,
            2 * 2.4 * 120,
            w,
          ),
        ]),
      },
    ]
  }),
)

// prisms: least deviation by wavelength
const deviation = (n: number) => (2 * Math.asin(n / 2) * 180) / Math.PI - 60
draw(
  'prism',
  'nm',
  'least deviation of a 60° prism, °',
  ['borosilicate crown 517/642', 'dense flint 785/257', 'fused silica'].map(name => ({
    name,
    points: every(400, 700, 5).map(w => [w, deviation(glassN[GLASS_NAMES.indexOf(name)]![w - 380]!)]),
  })),
  { yMin: 30 },
)

// furnaces: what comes back of light from everywhere, at 45°
const roughness = every(0, 1, 0.1)
const total = (inputs: Record<string, string | number>) =>
  roughness.map((r): [number, number] => {
    const m = of(pbr({ ...inputs, specular_roughness: +r.toFixed(2) }))([45], [550], 6000)
    return [r, m.reflectance[0]![0]! + m.transmittance[0]![0]!]
  })
draw(
  'furnace',
  'roughness',
  'light that is not lost',
  [
    { name: 'metal', points: total({ base_color: '1, 1, 1', base_metalness: 1 }) },
    { name: 'glass', points: total({ transmission_weight: 1 }) },
    { name: 'rough diffuse under a face', points: total({ base_color: '1, 1, 1', base_diffuse_roughness: 0.7 }) },
  ],
  { yMin: 0.9, yMax: 1.05 },
)

// skies: luminance along the plane of the sun at 45°
draw(
  'sky',
  'zenith angle towards the sun (45°), °',
  'luminance over that of the zenith',
  [1, 5, 12].map(type => ({
    name: `type ${type}`,
    points: every(-85, 85, 1).map(z => [
      z,
      skyOfType(type, Math.SQRT1_2)(Math.cos((z * Math.PI) / 180), Math.cos(((z - 45) * Math.PI) / 180)),
    ]),
  })),
)
