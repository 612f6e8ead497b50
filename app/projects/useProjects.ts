import type { ProjectSummary } from '../../shared/api'

/** How often projects whose picture is still to come are looked for again, ms. */
const LOOK = 2000

/** The list of projects and what is done to one. Pictures that workers make of them come while it is looked at. */
export function useProjects() {
  const say = useSay()
  const projects = shallowRef<ProjectSummary[] | null>(null)
  const failed = ref('')

  async function load(): Promise<void> {
    failed.value = ''
    try {
      projects.value = await api.projects()
    } catch (e) {
      failed.value = messageOf(e)
    }
  }
  const looking = setInterval(() => {
    if (projects.value?.some(p => p.still) && document.visibilityState === 'visible') void load()
  }, LOOK)
  onBeforeUnmount(() => clearInterval(looking))

  async function work(what: string, does: () => Promise<unknown>): Promise<boolean> {
    try {
      await does()
      await load()
      return true
    } catch (e) {
      say.fault(what, messageOf(e))
      return false
    }
  }
  return {
    projects,
    failed,
    load,
    rename: (p: ProjectSummary, name: string) => work(`${p.name} was not renamed`, () => api.rename(p.id, name)),
    copy: (p: ProjectSummary) => work(`${p.name} was not duplicated`, () => api.copy(p.id)),
    async remove(p: ProjectSummary): Promise<void> {
      if (await work(`${p.name} was not deleted`, () => api.remove(p.id)))
        say.note(`${p.name} is deleted`, undefined, {
          label: 'Bring back',
          run: () => void work(`${p.name} was not brought back`, () => api.bringBack(p.id)),
        })
    },
  }
}
