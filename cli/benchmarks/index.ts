import { table } from '../../core/nodes/table'
import type { Benchmark } from '../command'
import { benchmark as against } from './against'
import { benchmark as build } from './build'
import { benchmark as canvas } from './canvas'
import { benchmark as cards } from './cards'
import { benchmark as chroma } from './chroma'
import { benchmark as copies } from './copies'
import { benchmark as denoise } from './denoise'
import { benchmark as efficiency } from './efficiency'
import { benchmark as fields } from './fields'
import { benchmark as fuzz } from './fuzz'
import { benchmark as lamps } from './lamps'
import { benchmark as maps } from './maps'
import { benchmark as materials } from './materials'
import { benchmark as memory } from './memory'
import { benchmark as network } from './network'
import { benchmark as paths } from './paths'
import { benchmark as preview } from './preview'
import { benchmark as rays } from './rays'
import { benchmark as scale } from './scale'
import { benchmark as tessellate } from './tessellate'
import { benchmark as threads } from './threads'
import { benchmark as workers } from './workers'

/** Every benchmark by its name; a new one is a file of its own and a line here. */
export const benchmarks = table<Benchmark>({
  rays,
  build,
  copies,
  paths,
  against,
  tessellate,
  threads,
  preview,
  network,
  denoise,
  cards,
  canvas,
  maps,
  materials,
  memory,
  efficiency,
  chroma,
  fields,
  fuzz,
  lamps,
  scale,
  workers,
})
