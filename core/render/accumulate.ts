/** Adds one pass of a tile to the film. The tile's lock must be held. */
import { luminanceAt } from '../colour/luminance'
import { CHANNELS } from '../surface/slots'
import { AOVS, isNumber, TILE, type Film, type TileBox } from './film'
import type { FirstHits } from './first-hits'
import { toRec709, type Layers } from './layers'
import { memory } from './memory'
import { mixOf } from './mix'
import { rounded } from './rounded'

const { sample } = memory

/** A tile's place on the film and what was rendered of it. */
export interface TileSamples extends TileBox {
  /** Linear Rec.709, three a pixel. */
  rgb: Float64Array
  hits: FirstHits
  /** Wavelength lanes of each pixel, four apiece. */
  lanes: Int32Array
  /** What was kept apart; null where nothing was. */
  layers: Layers | null
  /** Material of each part. */
  materialOf: Int32Array
}

/** @param first whether sums begin here: whatever the film held is dropped */
export function accumulate(f: Film, t: TileSamples, first: boolean): void {
  const { w, h, rgb, hits } = t
  const mixed = f.lights.length > 0 && Atomics.load(f.mixes, 0) > 0
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x
      const o = (t.y0 + y) * f.width + t.x0 + x
      if (f.lights.length > 0) addLights(f, t, i, o, first, mixed)
      for (let k = 0; k < 3; k++) f.sum[o * 3 + k] = (first ? 0 : f.sum[o * 3 + k]!) + rgb[i * 3 + k]!
      if (f.square.length) f.square[o] = (first ? 0 : f.square[o]!) + luminanceAt(rgb, i * 3) ** 2
      if (first) {
        f.part[o] = hits.part[i]!
        for (let k = 0; k < 3; k++) f.normal[o * 3 + k] = hits.normal[i * 3 + k]!
      }
      if (f.cost.length) f.cost[o] = (first ? 0 : f.cost[o]!) + t.layers!.cost[i]!
      for (let layer = 0; layer < f.lobes.length; layer++)
        addSample(f.lobes[layer]!, o, t, t.layers!.lobe, layer, i, first)
    }
  addFirstHits(f, t, first)
}

/**
 * Adds one layer's sample of pixel i of the tile to `sum`, where the film has it at o; leaves it in {@link
 * sample}. Rounded like the picture's own, so that sums are exact.
 */
function addSample(
  sum: Float64Array,
  o: number,
  t: TileSamples,
  radiance: Float64Array,
  layer: number,
  i: number,
  first: boolean,
): void {
  toRec709(radiance, (layer * TILE * TILE + i) * CHANNELS, t.lanes, i * 4, sample, 0)
  const finite = sample[0]! + sample[1]! + sample[2]!
  for (let k = 0; k < 3; k++) {
    sample[k] = finite - finite === 0 ? rounded(sample[k]!) : 0
    sum[o * 3 + k] = (first ? 0 : sum[o * 3 + k]!) + sample[k]!
  }
}

/** Adds each light's sample; where lights are mixed anew, the picture's own sample becomes the sum of theirs. */
function addLights(f: Film, t: TileSamples, i: number, o: number, first: boolean, mixed: boolean): void {
  if (mixed) t.rgb.fill(0, i * 3, i * 3 + 3)
  for (let light = 0; light < f.lights.length; light++) {
    addSample(f.lights[light]!, o, t, t.layers!.light, light, i, first)
    if (mixed) for (let k = 0; k < 3; k++) t.rgb[i * 3 + k]! += mixOf(f, light, k) * sample[k]!
  }
}

function addFirstHits(f: Film, t: TileSamples, first: boolean): void {
  for (const name in f.aov) {
    if (isNumber(name) && !first) continue
    const size = AOVS[name]!
    const target = f.aov[name]!
    const source = isNumber(name) ? t.hits.part : t.hits[name as 'albedo' | 'normal' | 'position' | 'depth']
    for (let y = 0; y < t.h; y++)
      for (let x = 0; x < t.w; x++) {
        const i = y * t.w + x
        const o = (t.y0 + y) * f.width + t.x0 + x
        if (name === 'material') target[o] = t.hits.part[i]! < 0 ? -1 : t.materialOf[t.hits.part[i]!]!
        else
          for (let k = 0; k < size; k++)
            target[o * size + k] = (first ? 0 : target[o * size + k]!) + source[i * size + k]!
      }
  }
}
