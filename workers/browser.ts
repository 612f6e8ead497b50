import { createRenderLoop } from './loop'
import type { ToWorker } from './protocol'
import { tileFilesIn } from './tile-files'
import { openTiles, tilesOf } from './tiles-browser'

const receive = createRenderLoop(message => postMessage(message), tilesOf)
/** Ends when all that came has been received: a message whose files must be opened first holds up later ones. */
let before: Promise<void> | null = null

addEventListener('message', ({ data }: MessageEvent<ToWorker>) => {
  const files = [...tileFilesIn(data)].filter(f => !tilesOf(f))
  if (!before && files.length === 0) return receive(data)
  const received = (before ?? Promise.resolve())
    .then(() => Promise.all(files.map(openTiles)))
    .then(() => receive(data))
    .finally(() => {
      if (before === received) before = null
    })
  before = received
})
postMessage({ kind: 'ready' })
