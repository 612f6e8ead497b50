/**
 * The compiled loops of the denoiser on a memory of WebAssembly, and the plain ones where that is not to be had.
 */
import { hexBytes } from '../trace/kernel'
import { DENOISE } from './denoise-code'
import type { DenoiseMemory } from './denoise-memory'
import { plainLoops, type DenoiseLoops } from './denoise-plain'

/** Fewest pixels a row that the kernel takes: it works on four at once. */
const NARROWEST = 6

interface Exports {
  likeness(
    normal: number,
    albedo: number,
    near: number,
    plane: number,
    weight: number,
    width: number,
    step: number,
    from: number,
    to: number,
  ): void
  blurRow(up: number, row: number, down: number, out: number, width: number): void
  prefilter(
    luminance: number,
    spread: number,
    near: number,
    plane: number,
    light: number,
    doubt: number,
    scale: number,
    floor: number,
    width: number,
    from: number,
    to: number,
  ): void
  mixLevel(
    source: number,
    target: number,
    variance: number,
    outVariance: number,
    light: number,
    doubt: number,
    near: number,
    plane: number,
    width: number,
    step: number,
    from: number,
    to: number,
  ): void
}

let module: WebAssembly.Module | null | undefined

/** Compiled once. @returns null where the engine has no WebAssembly with SIMD */
function compiled(): WebAssembly.Module | null {
  if (module !== undefined) return module
  try {
    module = new WebAssembly.Module(hexBytes(DENOISE))
  } catch {
    module = null
  }
  return module
}

/**
 * The loops for a memory: the kernel's where it can work, the plain ones elsewhere. Both agree within the rounding
 * of float32.
 */
export function denoiseLoops(m: DenoiseMemory): DenoiseLoops {
  const code = m.memory && m.width >= NARROWEST ? compiled() : null
  if (!code || !m.memory) return plainLoops(m)
  const kernel = new WebAssembly.Instance(code, { env: { memory: m.memory } }).exports as unknown as Exports
  const { width } = m
  const plane = m.plane * 4
  return {
    likeness: (normal, albedo, near, weight, step, from, to) =>
      kernel.likeness(normal * 4, albedo * 4, near * 4, plane, weight, width, step, from, to),
    blurRow: (up, row, down, out) => kernel.blurRow(up * 4, row * 4, down * 4, out * 4, width),
    prefilter: (luminance, spread, near, light, doubt, scale, floor, from, to) =>
      kernel.prefilter(
        luminance * 4,
        spread * 4,
        near * 4,
        plane,
        light * 4,
        doubt * 4,
        scale,
        floor,
        width,
        from,
        to,
      ),
    mixLevel: (source, target, variance, outVariance, light, doubt, near, step, from, to) =>
      kernel.mixLevel(
        source * 4,
        target * 4,
        variance * 4,
        outVariance * 4,
        light * 4,
        doubt * 4,
        near * 4,
        plane,
        width,
        step,
        from,
        to,
      ),
  }
}
