import { readDraft } from '../../../database/drafts'

export default defineEventHandler(async event => (await readDraft(await useDatabase(), projectId(event))) ?? null)
