import { removeDraft } from '../../../database/drafts'

export default defineEventHandler(async event => {
  await removeDraft(await useDatabase(), projectId(event))
  return { removed: true }
})
