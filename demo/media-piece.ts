import type { Element } from '../core/network/document'
import { lathe, placed, rounded } from '../core/mesh/build/lathe'
import { box } from '../core/mesh/build/solids'
import type { SceneFiles } from '../cli/write-scene'
import { surface, glass, ball, scene, type Piece } from './test-pieces'

/** A tumbler: glass with an inside, and a liquid that reaches a little into the glass. */
function tumbler(x: number, liquid: Element): Piece[] {
  const at = [1, 0, 0, 0, 1, 0, 0, 0, 1, x, 0, 0] as const
  return [
    {
      part: placed(
        lathe(
          '',
          rounded(
            [
              [0, 0],
              [0.021, 0],
              [0.024, 0.05],
              [0.0222, 0.0505],
              [0.0195, 0.006],
              [0, 0.006],
            ],
            0.0008,
          ),
          96,
        ),
        [...at],
      ),
      material: glass('borosilicate crown 517/642', '<input name="dispersion" type="boolean" value="false"/>'),
    },
    {
      part: placed(
        lathe(
          '',
          rounded(
            [
              [0, 0.0055],
              [0.0199, 0.0055],
              [0.0217, 0.036],
              [0, 0.036],
            ],
            0.0004,
          ),
          96,
        ),
        [...at],
      ),
      material: liquid,
    },
  ]
}

/**
 * Glasses in each other: a coloured liquid, a milky one, shells within shells, a slab that scatters, varnish by
 * thickness.
 */
export const mediaPiece = (): SceneFiles => {
  const liquid = (inputs: Record<string, string | number>) =>
    surface({ transmission_weight: 1, specular_roughness: 0, specular_ior: 1.333, ...inputs })
  const shells = Array.from({ length: 7 }, (_, i): Piece => ({
    part: ball(0.075, 0.024, 0, 0.024 - i * 0.0032),
    material: surface({ transmission_weight: 1, specular_roughness: 0, specular_ior: i % 2 ? 1.0001 : 1.5 }),
  }))
  const p = scene(
    'Media',
    [
      ...tumbler(-0.08, liquid({ transmission_color: '0.8, 0.25, 0.05', transmission_depth: 0.02 })),
      ...tumbler(
        -0.025,
        liquid({
          transmission_color: '0.5, 0.55, 0.6',
          transmission_depth: 0.01,
          transmission_scatter: '0.68, 0.58, 0.5',
          transmission_scatter_anisotropy: 0.5,
        }),
      ),
      {
        part: box('', [0.012, 0, -0.014], [0.04, 0.05, 0.014]),
        material: liquid({
          specular_ior: 1.49,
          specular_roughness: 0.2,
          transmission_color: '0.75, 0.8, 0.85',
          transmission_depth: 0.01,
          transmission_scatter: '0.25, 0.21, 0.15',
        }),
      },
      ...shells,
    ],
    { position: [0.03, 0.1, 0.5], target: [0, 0.024, 0], fov: 22 },
    true,
  )
  p.scene.parts = p.scene.parts.map((part, i) =>
    i === 0 || i === 2 ? { ...part, priority: 2 } : i === 1 || i === 3 ? { ...part, priority: 1 } : part,
  )
  return p
}
