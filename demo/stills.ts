import type { Knex } from 'knex'
import { frameSchema, type ProjectState } from '../shared/api'
import { addFrames } from '../server/database/frames'
import { openQueue, queueFrames } from '../server/jobs/queue'

const WIDTH = 384
const HEIGHT = 240
/** Behind what artists ask for. */
const PRIORITY = -1000

/**
 * Asks the workers for the stills of a demo project: a proof of how it stands, and a made-up reference, which is
 * another rendering of it under turned lights, a third of a stop brighter, as a photographer would have brought it.
 * @param url address of the database
 */
export async function askForStills(
  db: Knex,
  url: string,
  id: string,
  name: string,
  state: ProjectState,
): Promise<void> {
  const turned = {
    ...state,
    scene: { ...state.scene, rigs: state.scene.rigs.map(r => ({ ...r, turn: r.turn + 25 })) },
  }
  const queue = await openQueue(url)
  for (const { becomes, passes, of } of [
    { becomes: { kind: 'proof' as const, name: 'As it came', exposure: 0 }, passes: 12, of: state },
    {
      becomes: { kind: 'reference' as const, name: `Reference, ${name}`, exposure: 1 / 3 },
      passes: 16,
      of: turned,
    },
  ]) {
    const frame = frameSchema.parse({
      name: `${name}: ${becomes.name}`.slice(0, 120),
      settings: { width: WIDTH, height: HEIGHT, passes, seed: 1, camera: state.scene.cameras[0] },
      state: of,
    })
    await addFrames(db, id, [frame], (trx, shares) => queueFrames(queue, trx, shares, PRIORITY), becomes)
  }
}
