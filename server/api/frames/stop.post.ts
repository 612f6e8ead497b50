import { stopAllFrames } from '../../database/frames'

export default defineEventHandler(async () => ({ stopped: await stopAllFrames(await useDatabase()) }))
