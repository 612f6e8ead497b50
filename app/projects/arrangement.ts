import { z } from 'zod'
import { keep, readKept } from '../input/kept'
import type { ProjectSummary } from '../../shared/api'

/** Where this browser keeps how the projects are arranged. */
const STORE = 'wavelume-projects'

/** What projects can be sorted by. */
export const SORTS = [
  { value: 'updated', label: 'last saved first' },
  { value: 'created', label: 'newest first' },
  { value: 'name', label: 'by name' },
] as const
export const arrangementSchema = z.object({
  sort: z.enum(SORTS.map(s => s.value)),
  as: z.enum(['grid', 'list']),
})
export type Arrangement = z.infer<typeof arrangementSchema>
const AS_IT_COMES: Arrangement = { sort: 'updated', as: 'grid' }

/** How this browser arranged the projects last. */
export const readArrangement = (): Arrangement => readKept(STORE, arrangementSchema, AS_IT_COMES)
export const keepArrangement = (a: Arrangement): void => keep(STORE, a)

/** Projects whose name has the text, in an order. */
export function arrangeProjects(
  projects: readonly ProjectSummary[],
  text: string,
  sort: Arrangement['sort'],
): ProjectSummary[] {
  const t = text.trim().toLowerCase()
  const found = projects.filter(p => p.name.toLowerCase().includes(t))
  return sort === 'name'
    ? found.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
    : found.sort((a, b) => b[sort].localeCompare(a[sort]))
}
