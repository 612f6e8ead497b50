/** Something said at the foot of the page. */
export interface Said {
  id: number
  title: string
  description?: string
  urgent: boolean
  offer?: { label: string; run(): void }
}

/** How many stand there at most. */
const MOST = 4
const said = shallowRef<readonly Said[]>([])
/** How long something stands there, ms: as long as it takes to read. */
const readingTime = (title: string, description = '') => 3000 + 60 * (title.length + description.length)
let next = 0

function say(what: Omit<Said, 'id'>, milliseconds: number): void {
  const id = next++
  said.value = [...said.value, { id, ...what }].slice(-MOST)
  setTimeout(() => unsay(id), milliseconds)
}
const unsay = (id: number) => {
  said.value = said.value.filter(s => s.id !== id)
}

/**
 * Says what happened at the foot of the page. Our own few lines: the notices of the interface library kept every
 * notice that was ever shown in memory
 * (35 elements each, some thousands in an hour of work).
 */
export function useSay() {
  return {
    said,
    unsay,
    /** @param offer something to do about it, as a button */
    note: (title: string, description?: string, offer?: { label: string; run(): void }) =>
      say(
        {
          title,
          urgent: false,
          ...(description !== undefined ? { description } : {}),
          ...(offer ? { offer } : {}),
        },
        offer ? 10_000 : readingTime(title, description),
      ),
    fault: (title: string, description?: string) =>
      say(
        { title, urgent: true, ...(description !== undefined ? { description } : {}) },
        8000 + readingTime(title, description),
      ),
  }
}

/** Message of an error from the server or elsewhere. */
export function messageOf(e: unknown): string {
  const data = (e as { data?: { message?: string } })?.data
  return data?.message ?? (e instanceof Error ? e.message : String(e))
}
