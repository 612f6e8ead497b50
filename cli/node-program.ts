import { atTime, compileNetwork, type Program } from '../core/network/compile'
import { readMaterial } from './files'
import { InputError } from './options'
import { report } from './report'

/** Program of a node of a document that gives numbers. @throws InputError where it does not */
export function nodeProgram(file: string, node: string, seconds: number): Program {
  const program = atTime(compileNetwork(readMaterial(file), node), seconds)
  report(program)
  const wrong = program.faults.find(f => f.severity === 'error' && f.where === node)
  if (wrong) throw new InputError(wrong.message)
  if (program.size === 0) throw new InputError(`${node} is a surface; nodes that give numbers are wanted`)
  return program
}
