/** The switches over all shapes of lights, by scripts/write-dispatch.mjs; what was registered is the default. */
import { SHAPE } from '../../scene/shape-kinds'
import { registeredShape, type LightShape } from '../shape'
import * as ball from './ball'
import * as disc from './disc'
import * as rectangle from './rectangle'
import * as sun from './sun'

/** Those of the list, by number. */
const LISTED: readonly LightShape[] = [rectangle, disc, ball, sun]

/** One of them by the number of its kind. */
export const lightShapeOfKind = (kind: number): LightShape => LISTED[kind] ?? registeredShape(kind)

export function weighShape(kind: number, p: Float64Array, o: number, point: Float64Array, at: number): void {
  switch (kind) {
    case SHAPE.rectangle:
      return rectangle.weigh(p, o, point, at)
    case SHAPE.disc:
      return disc.weigh(p, o, point, at)
    case SHAPE.ball:
      return ball.weigh(p, o, point, at)
    case SHAPE.sun:
      return sun.weigh(p, o, point, at)
    default:
      return registeredShape(kind).weigh(p, o, point, at)
  }
}

export function sampleShape(kind: number, p: Float64Array, o: number, S: Float64Array): boolean {
  switch (kind) {
    case SHAPE.rectangle:
      return rectangle.sample(p, o, S)
    case SHAPE.disc:
      return disc.sample(p, o, S)
    case SHAPE.ball:
      return ball.sample(p, o, S)
    case SHAPE.sun:
      return sun.sample(p, o, S)
    default:
      return registeredShape(kind).sample(p, o, S)
  }
}

export function densityOfShape(
  kind: number,
  p: Float64Array,
  o: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
): void {
  switch (kind) {
    case SHAPE.rectangle:
      return rectangle.density(p, o, origin, direction, at)
    case SHAPE.disc:
      return disc.density(p, o, origin, direction, at)
    case SHAPE.ball:
      return ball.density(p, o, origin, direction, at)
    case SHAPE.sun:
      return sun.density(p, o, origin, direction, at)
    default:
      return registeredShape(kind).density(p, o, origin, direction, at)
  }
}

export function hitShape(
  kind: number,
  p: Float64Array,
  o: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
): boolean {
  switch (kind) {
    case SHAPE.rectangle:
      return rectangle.hit(p, o, origin, direction, at)
    case SHAPE.disc:
      return disc.hit(p, o, origin, direction, at)
    case SHAPE.ball:
      return ball.hit(p, o, origin, direction, at)
    case SHAPE.sun:
      return sun.hit(p, o, origin, direction, at)
    default:
      return registeredShape(kind).hit(p, o, origin, direction, at)
  }
}

export function fadeOfShape(kind: number, p: Float64Array, o: number): number {
  switch (kind) {
    case SHAPE.rectangle:
      return rectangle.fade(p, o)
    case SHAPE.disc:
      return disc.fade(p, o)
    case SHAPE.ball:
      return ball.fade(p, o)
    case SHAPE.sun:
      return sun.fade(p, o)
    default:
      return registeredShape(kind).fade(p, o)
  }
}
