import { readDraft } from '../../../../database/drafts'

export default defineEventHandler(async event => {
  const draft = await readDraft(await useDatabase(), projectId(event), tabId(event))
  if (!draft) throw createError({ statusCode: 404, message: NO_DRAFT })
  return draft
})
