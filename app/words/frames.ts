import type { Frame } from '../../shared/api'

/** Whether a frame waits or is computed. */
export const underWay = (f: Frame): boolean => f.status === 'queued' || f.status === 'running'
