import { parentPort } from 'node:worker_threads'
import { createRenderLoop } from './loop'
import { tilesOf } from './tiles-node'

const receive = createRenderLoop(message => parentPort!.postMessage(message), tilesOf)
parentPort!.on('message', receive)
parentPort!.postMessage({ kind: 'ready' })
