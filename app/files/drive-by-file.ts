import type { InputDefinition } from '../../core/nodes/definition'
import { wireImage } from './wire-image'

/** Drives an input by a picture that was dropped on its row, and says what became of it. @param name of the row */
export async function driveByFile(file: File, node: string, input: InputDefinition, name: string): Promise<void> {
  const say = useSay()
  try {
    const done = await wireImage(file, node, input)
    if (done) say.note(`${file.name} drives ${name}`, done.said)
  } catch (x) {
    say.fault(`${file.name} was not read`, messageOf(x))
  }
}
