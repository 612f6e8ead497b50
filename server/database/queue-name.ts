/** Name of the queue of frames, and where the queue keeps its tables. */
export const FRAMES = 'frames'
export const QUEUE_SCHEMA = 'pgboss'
