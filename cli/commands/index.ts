import { table } from '../../core/nodes/table'
import type { Command } from '../command'
import { command as bake } from './bake'
import { command as benchmark } from './benchmark'
import { command as check } from './check'
import { command as compare } from './compare'
import { command as convert } from './convert'
import { command as isolate } from './isolate'
import { command as measure } from './measure'
import { command as mesh } from './mesh'
import { command as render } from './render'
import { command as worker } from './worker'

/** Every command by its name; a new one is a file of its own and a line here. */
export const commands = table<Command>({
  render,
  isolate,
  measure,
  mesh,
  bake,
  check,
  convert,
  compare,
  worker,
  benchmark,
})
