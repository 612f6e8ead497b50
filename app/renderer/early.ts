/**
 * What a bench needs is begun while the page itself is still being fetched and laid out: workers start, the project and its model are read.
 */
import type { Project } from '../../shared/api'
import { createLoader, type Loader } from './loader'
import { startWorkers, type Workers } from './start-workers'

interface Early { id: string, loader: Loader, project: Promise<Project>, workers: Workers }
let early: Early | undefined

function begin(id: string): Early {
  const loader = createLoader(), project = loader.open(id)
  project.catch(() => undefined)
  return { id, loader, project, workers: startWorkers() }
}

/** Begins to open a project. */
export function openEarly(id: string): void { early = begin(id) }

/** Hands over what was begun for a project; begins it where nothing was. */
export function takeEarly(id: string): Early {
  const e = early?.id === id ? early : begin(id)
  early = undefined
  return e
}
