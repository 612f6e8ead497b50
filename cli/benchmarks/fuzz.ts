import { fresnelConductor } from '../../core/optics/fresnel'
import { inputs, pushCoatOver, pushOpenPbr } from '../../core/surface/openpbr'
import { beginSurface } from '../../core/surface/begin'
import { darkenFrom } from '../../core/surface/darken'
import { evaluate } from '../../core/surface/evaluate'
import { finishSurface } from '../../core/surface/finish'
import { memory, now, scattered } from '../../core/surface/memory'
import { sample } from '../../core/surface/sample'
import { CHANNELS } from '../../core/surface/slots'
import { AT, type OpenPbrInput } from '../../core/surface/openpbr-inputs'
import type { Benchmark } from '../command'

const { basis, emission, lane, value } = memory

let state = 1
/** 32 random bits (xorshift, Marsaglia 2003). */
function random(): number {
  state ^= state << 13
  state ^= state >>> 17
  state ^= state << 5
  return (state >>> 0) / 4294967296
}
/** A number of a range, its ends and what lies just beyond them more often than chance would have it. */
const extreme = (low: number, high: number): number => {
  const r = random()
  return r < 0.1
    ? low
    : r < 0.2
      ? high
      : r < 0.22
        ? low - (high - low) * 1e-7
        : r < 0.24
          ? high * (1 + 1e-7)
          : low + (high - low) * random() ** (r < 0.5 ? 4 : 1)
}

/** Ranges of the inputs that are not 0..1, and beyond what they should be. */
const RANGES: [OpenPbrInput, number, number][] = [
  ['specular_ior', 0.9, 3],
  ['coat_ior', 0.9, 3],
  ['transmission_depth', 0, 0.1],
  ['specular_weight', 0, 1.2],
  ['emission_luminance', 0, 100],
  ['thin_film_thickness', 0, 3],
  ['thin_film_ior', 0.9, 3],
  ['transmission_dispersion_abbe_number', 0, 91],
  ['transmission_scatter_anisotropy', -1, 1],
  ['subsurface_scatter_anisotropy', -1, 1],
]
/** Weights that switch a whole part of the surface on: half of them are off. */
const MASTERS: OpenPbrInput[] = [
  'transmission_weight',
  'subsurface_weight',
  'fuzz_weight',
  'coat_weight',
  'thin_film_weight',
  'emission_luminance',
  'transmission_depth',
  'specular_roughness_anisotropy',
  'coat_roughness_anisotropy',
  'base_diffuse_roughness',
  'geometry_thin_walled',
  'transmission_dispersion_scale',
]

/**
 * `benchmark fuzz`: surfaces of random parameters, seen and lit from random directions, grazing ones often. Counts
 * values that are no finite numbers, negative ones, and samples whose weight exceeds what their lobes can give.
 * Runs of different seeds can go side by side.
 */
function benchmarkFuzz(samples: number, seed: number): unknown {
  state = seed
  let bad = 0
  let negative = 0
  let heavy = 0
  let drawnCount = 0
  let worst = 0
  const began = performance.now()
  const note: string[] = []
  for (let k = 0; k < 4; k++) lane[k] = k * 97
  basis.set([0.2, 0.3, 0.5, 0.6, 0.3, 0.1, 0.1, 0.8, 0.1, 0.33, 0.33, 0.34])
  const PER = 64
  for (let s = 0; s < samples; s += PER) {
    for (let i = 0; i < inputs.length; i++) inputs[i] = extreme(0, 1)
    for (const [name, low, high] of RANGES) inputs[AT[name]] = extreme(low, high)
    for (const name of MASTERS) if (random() < 0.5) inputs[AT[name]] = 0
    const grazing = random() < 0.3 ? 1e-4 * random() : random()
    const angle = 6.283185307 * random()
    const sign = random() < 0.25 ? -1 : 1
    const r = Math.sqrt(1 - grazing * grazing)
    const bend = extreme(0, 0.9) * random()
    const nx = bend
    const nz = Math.sqrt(1 - bend * bend)
    for (const i of [AT.geometry_normal, AT.geometry_coat_normal]) {
      inputs[i] = nx
      inputs[i + 1] = 0
      inputs[i + 2] = nz
    }
    now.surround = 1
    beginSurface(r * Math.cos(angle), r * Math.sin(angle), sign * grazing, 0, 0, 1)
    const over = random() < 0.3
    const first = now.lobes
    const layer = over
      ? pushCoatOver(
          -1,
          1,
          extreme(0, 1),
          extreme(0, 1),
          extreme(0, 1),
          extreme(0, 1),
          extreme(0, 1),
          extreme(1, 3),
          nx,
          0,
          nz,
        )
      : -1
    const under = now.lobes
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
        if (!(v - v === 0)) {
          bad++
          if (note.length < 3)
            note.push(
              `weight ${v} of ${Array.from(inputs)
                .map(x => +x.toFixed(4))
                .join(' ')}`,
            )
        } else if (v < 0) negative++
        else if (v > worst) {
          worst = v
          if (v > 100) heavy++
        }
      }
      if (scattered.smooth) continue
      const q = evaluate(scattered.x, scattered.y, scattered.z)
      if (!(q - q === 0) || q < 0) bad++
      for (let j = 0; j < CHANNELS; j++) if (!(value[j]! - value[j]! === 0) || value[j]! < 0) bad++
    }
  }
  const n = extreme(0.05, 5)
  const F = fresnelConductor(random(), n, extreme(0, 9))
  if (!(F >= 0 && F <= 1)) bad++
  return {
    samples: drawnCount,
    notNumbers: bad,
    negative,
    largestWeight: +worst.toPrecision(4),
    heavy,
    seconds: +((performance.now() - began) / 1000).toFixed(1),
    note,
    accept: { samples: 1e9, notNumbers: 0 },
  }
}

export const benchmark: Benchmark = {
  options: '[--samples N] [--seed N]',
  run: o => benchmarkFuzz(o.number('samples', 1e8, 1000, 1e11), o.number('seed', 1, 1, 2 ** 31 - 1)),
}
