import { stopFrame } from '../../../database/frames'

export default defineEventHandler(async event => ({
  stopped: await stopFrame(await useDatabase(), frameId(event)),
}))
