/** Something said at the foot of the page. */
export interface Said {
  id: number
  title: string
  description?: string
  /** What else there is to read, a line each. */
  lines?: readonly string[]
  urgent: boolean
  offer?: { label: string; run(): void }
}

/** How many stand there at most. */
const MOST = 4
const said = shallowRef<readonly Said[]>([])
/** How long something stands there, ms: as long as it takes to read. */
const readingTime = (title: string, description = '') => 3000 + 60 * (title.length + description.length)
let next = 0

/** @param milliseconds how long it stands; for ever, until it is closed, without them */
function say(what: Omit<Said, 'id'>, milliseconds?: number): void {
  const id = next++
  // what waits to be closed is not pushed out by what goes by itself
  const all = [...said.value, { id, ...what }]
  const pushed = all.length > MOST ? (all.find(s => !s.lines) ?? all[0]) : undefined
  said.value = all.filter(s => s !== pushed)
  if (milliseconds !== undefined) setTimeout(() => unsay(id), milliseconds)
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
  const worded = (title: string, description: string | undefined) =>
    description === undefined ? { title } : { title, description }
  return {
    said,
    unsay,
    /** @param offer something to do about it, as a button */
    note: (title: string, description?: string, offer?: { label: string; run(): void }) =>
      say(
        { ...worded(title, description), urgent: false, ...(offer ? { offer } : {}) },
        offer ? 10_000 : readingTime(title, description),
      ),
    /** What did not come over whole, a line each: it stands until it is closed. A note where there is none. */
    report: (title: string, description: string | undefined, lines: readonly string[]) => {
      const what = { ...worded(title, description), urgent: false }
      if (lines.length > 0) say({ ...what, lines })
      else say(what, readingTime(title, description))
    },
    fault: (title: string, description?: string) =>
      say({ ...worded(title, description), urgent: true }, 8000 + readingTime(title, description)),
  }
}

/** Message of an error from the server or elsewhere. */
export function messageOf(e: unknown): string {
  const data = (e as { data?: { message?: string } })?.data
  return data?.message ?? (e instanceof Error ? e.message : String(e))
}
