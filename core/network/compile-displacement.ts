import { compileNetwork, type CompileOptions, type Program } from './compile'
import { displacementOf } from './displacement'
import type { Element } from './document'

/** Compiles a material's displacement to a program of three numbers; undefined where it has none. */
export function compileDisplacement(
  document: Element,
  material: string,
  options: CompileOptions = {},
): Program | undefined {
  const path = displacementOf(document, material)
  if (path === undefined) return undefined
  const program = compileNetwork(document, path, options)
  if (program.fields.length)
    program.faults.push({
      where: path,
      severity: 'warning',
      message: 'what the shape around a point drives moves nothing: it is found once the shape stands',
    })
  return program
}
