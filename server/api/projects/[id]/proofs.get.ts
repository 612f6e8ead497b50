import { listProofs } from '../../../database/proofs'

export default defineEventHandler(async event => listProofs(await useDatabase(), projectId(event)))
