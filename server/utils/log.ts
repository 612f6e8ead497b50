import pino from 'pino'

/** The server's log: a line of JSON for each thing that happened, on standard output. */
export const log = pino({
  level: process.env.WAVELUME_LOG ?? 'info',
  base: undefined,
  timestamp: pino.stdTimeFunctions.isoTime,
})
