import type { ProjectSummary } from '../../shared/api'

/** What a list of projects is given, as cards or as a table. */
export interface ProjectListProps {
  projects: readonly ProjectSummary[]
  /** Id of the one that is being given a name. */
  renaming: string | null
}
/** What a list of projects asks for. */
export interface ProjectListEvents {
  /** Asks for a name, or gives one. */
  rename: [project: ProjectSummary, name?: string]
  leave: []
  copy: [project: ProjectSummary]
  remove: [project: ProjectSummary]
}
