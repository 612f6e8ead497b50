import { listFrames } from '../../database/frames'

export default defineEventHandler(async () => listFrames(await useDatabase()))
