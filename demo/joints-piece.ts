import { APART, ball, scene, surface, type Piece } from './test-pieces'
import type { SceneFiles } from '../cli/write-scene'

const COUNT = 6
const along = (i: number): number => (i - (COUNT - 1) / 2) * APART
const each = (y: number, make: (t: number, i: number) => Piece['material']): Piece[] =>
  Array.from({ length: COUNT }, (_, i) => ({ part: ball(along(i), y), material: make(i / (COUNT - 1), i) }))

/** A relief of bumps a few millimetres wide, as a normal. @param height metres */
const bumps = (height: number): string => `<position name="position" type="vector3" xpos="0" ypos="0"/>
  <divide name="closer" type="vector3" xpos="1" ypos="0"><input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.003"/></divide>
  <noise3d name="noise" type="float" xpos="2" ypos="0"><input name="position" type="vector3" nodename="closer"/>
    <input name="amplitude" type="float" value="${height}"/></noise3d>
  <bump name="relief" type="vector3" xpos="3" ypos="0"><input name="height" type="float" nodename="noise"/>
    <input name="scale" type="float" value="8"/></bump>`

/**
 * Where two things meet: a lamp in milk of growing density, metal under relief of growing height, metal under coats of
 * growing index, rough glass from half a roughness on.
 */
export const jointsPiece = (): SceneFiles =>
  scene(
    'Joints',
    [
      ...each(0, t =>
        surface({
          transmission_weight: 1,
          specular_roughness: 0,
          specular_ior: 1.33,
          transmission_color: '0.5, 0.55, 0.6',
          transmission_depth: 0.08 * 0.5 ** (4 * t),
          transmission_scatter: '0.68, 0.58, 0.5',
        }),
      ),
      ...Array.from({ length: COUNT }, (_, i) => ({
        part: ball(along(i), 0, 0, 0.004),
        material: surface({
          base_weight: 0,
          specular_weight: 0,
          emission_luminance: 12,
          emission_color: '1, 0.8, 0.5',
        }),
      })),
      ...each(APART, t =>
        surface({ specular_roughness: 0.5 + 0.5 * t, transmission_weight: 1, base_color: '1, 1, 1' }),
      ),
      ...each(2 * APART, t =>
        surface({
          base_color: '0.56, 0.57, 0.58',
          base_metalness: 1,
          specular_roughness: 0.25,
          coat_weight: 1,
          coat_roughness: 0,
          coat_ior: 1 + t,
        }),
      ),
      ...each(3 * APART, t =>
        surface(
          { base_color: '0.94, 0.72, 0.4', base_metalness: 1, specular_roughness: 0.2 },
          '<input name="geometry_normal" type="vector3" nodename="relief"/>',
          bumps(0.0018 * t),
        ),
      ),
    ],
    { position: [0, 0.085, 0.62], target: [0, 0.068, 0], fov: 24 },
    true,
  )
