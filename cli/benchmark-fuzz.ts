import { fresnelConductor } from '../core/optics/fresnel'
import { inputs, pushCoatOver, pushOpenPbr } from '../core/surface/openpbr'
import { evaluate, sample, scattered, value } from '../core/surface/scatter'
import { basis, beginSurface, CHANNELS, darkenFrom, emission, finishSurface, lane, now } from '../core/surface/stack'

let state = 1
/** 32 random bits (xorshift, Marsaglia 2003). */
function random(): number {
  state ^= state << 13
  state ^= state >>> 17
  state ^= state << 5
  return (state >>> 0) / 4294967296
}
/** A number of a range, its ends and what lies just beyond them more often than chance would have it. */
const extreme = (low: number, high: number): number => { const r = random(); return r < 0.1 ? low : r < 0.2 ? high : r < 0.22 ? low - (high - low) * 1e-7 : r < 0.24 ? high * (1 + 1e-7) : low + (high - low) * random() ** (r < 0.5 ? 4 : 1) }

/**
 * `benchmark fuzz`: surfaces of random parameters, seen and lit from random directions, grazing ones often. Counts values that are no finite numbers, negative ones, and
 * samples whose weight exceeds what their lobes can give.
 */
export function benchmarkFuzz(samples: number): unknown {
  let bad = 0, negative = 0, heavy = 0, drawnCount = 0, worst = 0
  const began = performance.now(), note: string[] = []
  for (let k = 0; k < 4; k++) lane[k] = k * 97
  basis.set([0.2, 0.3, 0.5, 0.6, 0.3, 0.1, 0.1, 0.8, 0.1, 0.33, 0.33, 0.34])
  const PER = 64
  for (let s = 0; s < samples; s += PER) {
    inputs.fill(0)
    for (let i = 0; i < 27; i++) inputs[i] = extreme(0, 1)
    inputs[10] = extreme(1, 3); inputs[21] = extreme(1, 3); inputs[15] = random() < 0.5 ? 0 : extreme(0, 0.1); inputs[5] = extreme(0, 1.2); inputs[23] = random() < 0.8 ? 0 : extreme(0, 100)
    const grazing = random() < 0.3 ? 1e-4 * random() : random(), angle = 6.283185307 * random(), sign = random() < 0.25 ? -1 : 1, r = Math.sqrt(1 - grazing * grazing), bend = extreme(0, 0.9) * random()
    const nx = bend, nz = Math.sqrt(1 - bend * bend)
    for (let i = 27; i < 33; i += 3) { inputs[i] = nx; inputs[i + 1] = 0; inputs[i + 2] = nz }
    beginSurface(r * Math.cos(angle), r * Math.sin(angle), sign * grazing, 0, 0, 1)
    const over = random() < 0.3, first = now.lobes, layer = over ? pushCoatOver(-1, 1, extreme(0, 1), extreme(0, 1), extreme(0, 1), extreme(0, 1), extreme(0, 1), extreme(1, 3), nx, 0, nz) : -1, under = now.lobes
    pushOpenPbr(layer, 1)
    if (layer >= 0) darkenFrom(Math.max(first, under), layer, 1, extreme(0, 1))
    if (!finishSurface()) continue
    for (let j = 0; j < CHANNELS; j++) if (!Number.isFinite(emission[j]!)) bad++
    for (let i = 0; i < PER; i++) {
      const ok = sample(random(), random() * 0.9999999, random())
      drawnCount++
      if (!ok) continue
      for (let j = 4; j < CHANNELS; j++) {
        const v = value[j]!
        if (!(v - v === 0)) { bad++; if (note.length < 3) note.push(`weight ${v} of ${Array.from(inputs).map(x => +x.toFixed(4)).join(' ')}`) }
        else if (v < 0) negative++
        else if (v > worst) { worst = v; if (v > 100) heavy++ }
      }
      if (scattered.smooth) continue
      const q = evaluate(scattered.x, scattered.y, scattered.z)
      if (!(q - q === 0) || q < 0) bad++
      for (let j = 0; j < CHANNELS; j++) if (!(value[j]! - value[j]! === 0) || value[j]! < 0) bad++
    }
  }
  const n = extreme(0.05, 5), F = fresnelConductor(random(), n, extreme(0, 9))
  if (!(F >= 0 && F <= 1)) bad++
  return { samples: drawnCount, notNumbers: bad, negative, largestWeight: +worst.toPrecision(4), heavy, seconds: +((performance.now() - began) / 1000).toFixed(1), note, accept: { samples: 1e8, notNumbers: 0 } }
}
