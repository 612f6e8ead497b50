/**
 * A light rig as a document of its own, to be carried to other projects: JSON with a name and a version of the
 * format.
 */
import { rigSchema, type Rig } from '../scene/rig'
import { FormatError } from './error'

const FORMAT = 'wavelume-rig'
const VERSION = 1

export const writeRig = (rig: Rig): string =>
  JSON.stringify({ format: FORMAT, version: VERSION, ...rig }, null, 1) + '\n'

/** Reads what {@link writeRig} wrote. @throws FormatError with what is wrong, and where */
export function readRig(text: string): Rig {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (e) {
    throw new FormatError('light rig', e instanceof Error ? e.message : 'not JSON')
  }
  const head = json as { format?: unknown; version?: unknown } | null
  if (head?.format !== FORMAT)
    throw new FormatError('light rig', `the file is not a light rig: its format should be "${FORMAT}"`)
  if (head.version !== VERSION)
    throw new FormatError('light rig', `version ${String(head.version)} is not known; this one reads ${VERSION}`)
  const checked = rigSchema.safeParse(json)
  if (!checked.success) {
    const i = checked.error.issues[0]!
    throw new FormatError('light rig', i.message, i.path.join('.'))
  }
  return checked.data
}
