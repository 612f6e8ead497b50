import { FormatError } from '../core/formats/error'
import { commands } from './commands'
import { InputError, parseOptions } from './options'

/** How everything is called. */
const help = (): string =>
  ['wavelume demo | test [--long] | dev', ...Object.values(commands).map(c => c.usage)].join('\n')

/** Runs a command. @returns the exit code: 0, 1 for findings of a strict check, or 2 for bad input */
export async function main(args: string[]): Promise<number> {
  const [name, ...rest] = args
  const command = Object.hasOwn(commands, name ?? '') ? commands[name!] : undefined
  if (!command) {
    console.error(help())
    return name === undefined || name === 'help' || name === '--help' ? 0 : 2
  }
  try {
    const options = parseOptions(rest)
    const result = await command.run(options)
    if (options.has('json')) console.log(JSON.stringify(result))
    else if (Array.isArray(result))
      for (const line of result)
        console.log(
          line.severity ? `${line.severity}: ${line.where}: ${line.message} ${line.fix}.` : JSON.stringify(line),
        )
    else if (result && typeof result === 'object')
      for (const [k, v] of Object.entries(result))
        console.log(`${k}: ${typeof v === 'object' ? JSON.stringify(v) : v}`)
    return name === 'check' && options.has('strict') && (result as unknown[]).length > 0 ? 1 : 0
  } catch (e) {
    if (e instanceof InputError || e instanceof FormatError || e instanceof RangeError) {
      console.error(e.message)
      return 2
    }
    throw e
  }
}
