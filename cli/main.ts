import { totalmem } from 'node:os'
import { FormatError } from '../core/formats/error'
import { setDraco } from '../core/formats/models/decoders'
import { setPatience } from '../core/formats/patience'
import { table } from '../core/nodes/table'
import { roomOfFiles, setRoomOfFiles } from '../core/formats/promises'
import { commands } from './commands'
import { loadDraco } from './draco'
import { fromEnvironment, InputError, messageOf, parseOptions } from './options'
import { patienceOf } from './patience'

/** Longest that a library may take to unpack a file. */
const UNPACKING_MS = 60_000

/** How everything is called. */
const help = (): string =>
  ['wavelume demo | test [--long] | dev', ...Object.values(commands).map(c => c.usage)].join('\n')

/** What the system says of files, in words. */
const SYSTEM = table<string>({
  ENOENT: 'there is no such file',
  EISDIR: 'that is a folder',
  EACCES: 'that is not allowed',
  EPERM: 'that is not allowed',
  EROFS: 'nothing can be written there',
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk is full',
  EFBIG: 'the file is too large',
  ENOTDIR: 'a folder on its way is a file',
  EMFILE: 'too many files are open',
})

/**
 * Runs a command.
 * @returns the exit code: 0, 1 for findings of a strict check, 2 for bad input, 3 for what went wrong besides
 */
export async function main(args: string[]): Promise<number> {
  const [name, ...rest] = args
  const command = Object.hasOwn(commands, name ?? '') ? commands[name!] : undefined
  if (!command) {
    if (name !== undefined && name !== 'help' && name !== '--help') console.error(`there is no command ${name}`)
    console.error(help())
    return name === undefined || name === 'help' || name === '--help' ? 0 : 2
  }
  try {
    const mebibytes = fromEnvironment('WAVELUME_FILE_MEMORY', roomOfFiles(totalmem()) / 2 ** 20)
    setDraco(loadDraco)
    setPatience(patienceOf(UNPACKING_MS))
    setRoomOfFiles(Math.max(1, mebibytes) * 2 ** 20)
    const options = parseOptions(rest, command.takes(rest.filter(a => !a.startsWith('-'))))
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
    // what nobody foresaw: its words, and where it was with --debug
    const { code, path } = e as NodeJS.ErrnoException
    const words = code !== undefined && path !== undefined ? `${path}: ${SYSTEM[code] ?? code}` : messageOf(e)
    console.error(`wavelume ${name}: ${words.split('\n', 1)[0]}`)
    if (rest.includes('--debug')) console.error(e)
    return 3
  }
}
