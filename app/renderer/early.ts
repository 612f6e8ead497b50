/**
 * What a bench needs is begun before its page stands: the page of projects starts the workers while it waits for a
 * hand, a card under the pointer has its project and model read, and an address typed in begins both while the
 * page's own scripts still arrive.
 */
import type { Project } from '../../shared/api'
import { createLoader, type Loader } from './loader'
import { startWorkers, type Workers } from './start-workers'

interface Ready {
  loader: Loader
  workers: Workers
}
interface Early extends Ready {
  id: string
  begun: number
  project: Promise<Project>
}
/** How long what was read ahead counts as current, ms: somebody may have saved since. */
const CURRENT = 2000
let ready: Ready | undefined
let early: Early | undefined

/** Starts the workers of the next bench. */
function start(): Ready {
  return (ready ??= readyWith(startWorkers()))
}
const readyWith = (workers: Workers): Ready => ({ loader: createLoader(workers.render), workers })

/** Render workers of the next bench, which have nothing to do yet. */
export const idleWorkers = (): readonly Worker[] => ready?.workers.render ?? []

/** Lets the workers of the next bench warm up, unless it has taken them meanwhile. */
export async function prepareBench(): Promise<void> {
  const next: Ready = early ?? start()
  const { warmUp } = await import('./warm-up')
  if (next === early || next === ready) warmUp(next.workers)
}

function begin(id: string): Early {
  const { loader, workers } = start()
  const project = loader.open(id)
  project.catch(() => undefined)
  ready = undefined
  return { id, begun: performance.now(), loader, project, workers }
}

/** Begins to open a project, in place of another that was begun and not taken. */
export function openEarly(id: string): void {
  if (early?.id === id) return
  // its render workers have done nothing yet, and serve the next as well; its loader may be busy with a large
  // model
  if (early) {
    early.loader.stop()
    ready = readyWith(early.workers)
  }
  early = begin(id)
}

/** Hands over what was begun for a project; begins it where nothing was. */
export function takeEarly(id: string): Early {
  openEarly(id)
  const e = early!
  early = undefined
  // the project is read once more, its geometry stands
  return performance.now() - e.begun > CURRENT ? { ...e, project: e.loader.open(id) } : e
}
