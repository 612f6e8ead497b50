import { removeDraft } from '../../../../database/drafts'

export default defineEventHandler(async event => {
  await removeDraft(await useDatabase(), projectId(event), tabId(event))
  return { removed: true }
})
