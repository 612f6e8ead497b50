import { parentPort } from 'node:worker_threads'
import { createRenderLoop } from './loop'

const receive = createRenderLoop(message => parentPort!.postMessage(message))
parentPort!.on('message', receive)
parentPort!.postMessage({ kind: 'ready' })
