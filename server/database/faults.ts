/** What the database says went wrong, as answers (PostgreSQL, appendix A: error codes). */
import { table } from '../../core/nodes/table'

export interface Answer {
  status: 400 | 503 | 507
  message: string
}

const GONE: Answer = {
  status: 503,
  message: 'The database does not answer. Nothing is lost; try again in a while.',
}
const FULL: Answer = { status: 507, message: 'The disk of the database is full: nothing was kept.' }
const BEYOND: Answer = { status: 400, message: 'This cannot be kept: a number or a text is beyond what can be.' }

const ANSWERS = table<Answer>({
  // what is referred to
  '23503': { status: 400, message: 'This cannot be kept: it refers to a picture or a project that is not there.' },
  // numbers, texts and encodings out of range
  '22003': BEYOND,
  '22021': BEYOND,
  '22P02': BEYOND,
  '22P05': BEYOND,
  '54000': BEYOND,
  '53100': FULL,
  '53200': { status: 503, message: 'The database has no memory left. Try again in a while.' },
  '53300': { status: 503, message: 'The database has no connection left. Try again in a while.' },
  // ended, starting or stopping; a connection that broke
  '57P01': GONE,
  '57P02': GONE,
  '57P03': GONE,
  '08000': GONE,
  '08001': GONE,
  '08003': GONE,
  '08006': GONE,
  'ECONNREFUSED': GONE,
  'ECONNRESET': GONE,
  'EPIPE': GONE,
})

/** The answer to an error of the database; undefined for what is none. */
export function answerTo(error: unknown): Answer | undefined {
  if (typeof error !== 'object' || error === null) return undefined
  const { code, name, message, cause } = error as {
    code?: unknown
    name?: string
    message?: string
    cause?: unknown
  }
  if (typeof code === 'string' && ANSWERS[code]) return ANSWERS[code]
  if (name === 'KnexTimeoutError' || message?.startsWith('Connection terminated')) return GONE
  return cause === undefined || cause === error ? undefined : answerTo(cause)
}
