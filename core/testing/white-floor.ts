/** A white floor of two centimetres at the origin, seen from above: what it sends back is what it gets, over π. */
import { quad } from '../mesh/quad'
import { materialOf, mtlx, pbr } from './setup'

export const white = materialOf(mtlx(pbr({ base_color: '1, 1, 1', specular_weight: 0 })), 's')
export const floor = quad('floor', [-0.01, 0, 0.01, 0.01, 0, 0.01, 0.01, 0, -0.01, -0.01, 0, -0.01])
export const above = {
  name: 'c',
  position: [0, 0.3, 0.02] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 0.5,
}
