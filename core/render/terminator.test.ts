import { describe, expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { rigSchema } from '../scene/rig'
import { materialOf, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'

const WIDTH = 96
const HEIGHT = 48

/** A ball of few triangles in a sun from the right, seen from far above its middle: by row and column. */
function ballIn(sun: Record<string, unknown>, columns: number, rows: number): (x: number, y: number) => number {
  const white = materialOf(
    mtlx(pbr({ base_color: '1, 1, 1', base_weight: 1, specular_weight: 0, base_diffuse_roughness: 0 })),
    's',
  )
  const rig = rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, panels: [sun] })
  const camera = {
    name: 'c',
    position: [0, 0, 400] as [number, number, number],
    target: [0, 0, 0] as [number, number, number],
    fov: (2 * Math.atan(0.5 / 400) * 180) / Math.PI,
  }
  const scene = {
    ...sceneOf({ parts: [sphere('ball', 1, rows, columns)] }, [white], rig, camera, WIDTH, HEIGHT),
    maxOpaque: 0,
  }
  const passes = 16
  const sum = sumOfPasses(scene, WIDTH, HEIGHT, 0, passes)
  return (x, y) => sum[(y * WIDTH + x) * 3 + 1]! / passes
}

/** Half edge of a disc that stands for directions, 1,000 m away: it fills about 2e-4 sr. */
const sunFrom = (x: number, z: number) => {
  const l = Math.hypot(x, z)
  return {
    name: 'sun',
    shape: 'sun',
    centre: [(1000 * x) / l, 0, (1000 * z) / l],
    u: [0, 8, 0],
    v: [0, 0, 8],
    radiance: [1e4, 1e4, 1e4],
  }
}
const SUN = 1e4 * 2 * Math.PI * (1 - Math.cos(Math.atan(8 / 1000)))

describe('the terminator of a smooth ball of few triangles', () => {
  it.each([
    ['from the side', 1, 0],
    ['from the front', 1, 0.6],
    ['from behind', 1, -0.3],
  ])('lies where light is square to the smooth normal: %s', (_, sx, sz) => {
    const at = ballIn(sunFrom(sx, sz), 12, 6)
    const l = Math.hypot(sx, sz)
    let worst = 0
    // the middle of the picture: half the ball's width and height, of smooth normals about those of the true ball
    for (let y = 12; y < HEIGHT - 12; y++)
      for (let x = 0; x < WIDTH; x++) {
        const nx = ((x + 0.5) / WIDTH - 0.5) * 2
        const ny = ((y + 0.5) / HEIGHT - 0.5) * 1
        const nz = Math.sqrt(Math.max(0, 1 - nx * nx - ny * ny))
        if (nz < 0.45) continue
        const cosine = Math.max(0, (nx * sx + nz * sz) / l)
        const got = (at(x, y) * Math.PI) / SUN
        worst = Math.max(worst, Math.abs(got - cosine))
      }
    // normals between those of so few corners are off by up to 0.07 themselves
    expect(worst).toBeLessThan(0.1)
  })
})
