import type { Emitter } from './emit'
import { emitters as adjust } from './adjust'
import { emitters as blend } from './blend'
import { emitters as channel } from './channel'
import { emitters as geometry } from './geometry'
import { emitters as math } from './math'
import { emitters as normalmap } from './normalmap'
import { emitters as points } from './points'
import { emitters as procedural } from './procedural'
import { emitters as relief } from './relief'
import { emitters as texture } from './texture'

/** Emitter of every node that gives numbers, by category. */
export const emitters: Readonly<Record<string, Emitter>> = {
  ...adjust,
  ...blend,
  ...channel,
  ...geometry,
  ...math,
  ...normalmap,
  ...points,
  ...procedural,
  ...relief,
  ...texture,
}
