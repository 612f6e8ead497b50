/** Test pieces that are built in: a new one is a file of its own and a line here. */
import type { Model } from '../model'
import { ballOnSteps } from './ball-on-steps'
import { cubes } from './cubes'
import { disc } from './disc'
import { drape } from './drape'
import { prism } from './prism'
import { room } from './room'
import { shell } from './shell'
import { terrain } from './terrain'
import type { PieceName } from './names'

/** Builds a piece by its name. */
export const PIECES: Record<PieceName, () => Model> = {
  'Ball on steps': ballOnSteps,
  'Cloth': drape,
  'Soft and sharp cube': cubes,
  'Thin bowl': shell,
  'Prism': prism,
  'Turned disc': disc,
  'Terrain': terrain,
  'Corner of a room': room,
}
