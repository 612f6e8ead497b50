import { answerTo } from '../database/faults'

/** Errors of the database become answers that say what can be done; whoever answers reads them after this. */
export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('error', error => {
    const answer = answerTo(error)
    if (!answer) return
    const said = error as Error & { statusCode?: number; unhandled?: boolean; fatal?: boolean }
    said.statusCode = answer.status
    said.message = answer.message
    said.unhandled = false
    said.fatal = false
  })
})
