/** The working memory of this room, one a thread: what was asked about lights last, and what came of it. */
import { POINT_STRIDE } from '../point/slots'
import { createRayBatch } from '../trace/cast'
import { MOST_CHOICES } from './choices'

export const memory = {
  /** Quick estimates of what each choice gives at the point that `weighLights` was asked for last. */
  weights: new Float64Array(MOST_CHOICES),
  /** Boxes over panels that a ray still has to be asked about, and how far away it enters them. */
  boxesWaiting: new Int32Array(64),
  enteredAt: new Float64Array(64),
  /** A point of a way through matter. */
  onWay: new Float64Array(3),
  /** Where a ray met a panel, in half edges; of a ball, what its cone leaves. */
  met: new Float64Array(2),
  /** Two directions across the one to a ball. */
  across: new Float64Array(6),
  /** Direction of a ray that asks how much of a light a part sees. */
  toLight: new Float64Array(3),

  /** A ray that is asked about by itself: what it passes on its way to a light. */
  single: createRayBatch(1),
  /** The middle of a shining triangle as a shading point, a ray to it, and the way it faces. */
  shiningPoint: new Float64Array(POINT_STRIDE),
  shiningRay: createRayBatch(1),
  facing: new Float64Array(3),
}

/** Result of drawing a light, of meeting one, and of asking for densities. */
export const lit = {
  x: 0.5,
  y: 0.5,
  z: 0.5,
  distance: 0.5,
  pdf: 0.5,
  r: 0.5,
  g: 0.5,
  b: 0.5,
  /** Sum of the estimates of the last `weighLights`, or that of the point a density is asked for. */
  sum: 0.5,
  /** Factor on lights that the part of the last `weighLights` does not see. */
  unseen: 0.5,
  /** Factor for `addLight`. */
  weight: 0.5,
  /** Number of the light drawn, see `lights.ts`. */
  light: 0,
  /** Of a shape: the estimate asked for; the share with which the panel is drawn; two draws. */
  estimate: 0.5,
  share: 0.5,
  u: 0.5,
  v: 0.5,
}

/** Result of drawing a shining triangle: density per steradian, given that the tree was asked. */
export const drawnEmitter = { x: 0.5, y: 0.5, z: 0.5, distance: 0.5, pdf: 0.5, place: 0, u: 0.5, v: 0.5 }
