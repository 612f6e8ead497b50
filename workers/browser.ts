import { createRenderLoop } from './loop'

const receive = createRenderLoop(message => postMessage(message))
addEventListener('message', (event: MessageEvent) => receive(event.data))
postMessage({ kind: 'ready' })
