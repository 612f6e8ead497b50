import { createLights } from '../../core/light/create-lights'
import { rigs } from '../../core/scene/rigs'
import { sphere } from '../../core/mesh/sphere'
import { starters } from '../../core/network/starters'
import { compileMaterial } from '../../core/world/compile-material'
import { cameraFrame, defaultCamera } from '../../core/scene/camera'
import { createGeometry } from '../../core/scene/geometry'
import type { ToWorker } from '../../workers/protocol'
import type { DisplayMessage } from './messages'
import type { Workers } from './start-workers'

/**
 * Lets the workers exercise their code on a few balls before there is anything to show, so that the engine has
 * compiled it when the first picture is wanted. Measured on two cores, first coarse picture after its epoch began:
 * 440 ms cold, see docs/performance.md for now.
 */
export function warmUp({ render, display }: Workers): void {
  const programs = starters.map(s => compileMaterial(s.make()))
  const geometry = createGeometry(
    { parts: programs.map((_, i) => sphere(String(i), 0.3, 24, 32, [i % 4, Math.floor(i / 4), 0])) },
    new Set(),
    bytes => new SharedArrayBuffer(bytes),
  )
  const world = {
    geometry,
    lights: createLights(rigs(3)[0]!, null),
    programs,
    maps: programs.map(p => p.images.map(() => null)),
    materialOf: Int32Array.from(programs, (_, i) => i),
    priorityOf: new Int32Array(programs.length),
    maxOpaque: 2,
    maxSpecular: 8,
  }
  for (const w of render)
    w.postMessage({
      kind: 'warm',
      world,
      camera: cameraFrame(defaultCamera(geometry.hierarchy.bounds, 16, 10), 160, 100),
    } satisfies ToWorker)
  display.postMessage({ kind: 'warm' } satisfies DisplayMessage)
}
