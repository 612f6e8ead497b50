import { draftSchema } from '../../../../../shared/api'
import { keepDraft } from '../../../../database/drafts'

export default defineEventHandler(async event => {
  const draft = await bodyOf(event, draftSchema)
  if (!(await keepDraft(await useDatabase(), projectId(event), tabId(event), draft)))
    throw createError({ statusCode: 404, message: 'There is no such project.' })
  return { kept: true }
})
