/** An action that a key runs. */
export interface Action {
  name: string
  title: string
  /** Its key unless the artist chose another: as `Shift+A`, `Delete`. */ key: string
  run(): void
}

const STORE = 'wavelume-keys'
/** Keys that the bench itself uses. */
const TAKEN = ['B', 'Escape', 'Tab', 'Enter', ' ', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown']

/** What an event's key is called: letters in capitals, with Shift only where it changes nothing else. */
function nameOf(e: KeyboardEvent): string {
  const letter = e.key.length === 1 && e.key.toLowerCase() !== e.key.toUpperCase()
  return (
    (letter && e.shiftKey ? 'Shift+' : '') +
    (letter ? e.key.toUpperCase() : e.key === 'Backspace' ? 'Delete' : e.key)
  )
}

/** Keys of the bench's actions: as they came, or as the artist changed them in this browser. */
export function useKeys(actions: readonly Action[]) {
  let kept: unknown
  try {
    kept = JSON.parse(localStorage.getItem(STORE) ?? '{}')
  } catch {
    kept = {}
  }
  const own = ref<Record<string, string>>(
    Object.fromEntries(
      Object.entries(kept !== null && typeof kept === 'object' ? kept : {}).filter(
        ([n, k]) => typeof k === 'string' && actions.some(a => a.name === n),
      ),
    ),
  )
  /** Action whose key is pressed next. */
  const learning = ref<string | null>(null)
  const of = (name: string): string => own.value[name] ?? actions.find(a => a.name === name)?.key ?? ''
  return {
    learning,
    of,
    changed: computed(() => Object.keys(own.value).length > 0),
    find: (e: KeyboardEvent): Action | undefined => {
      const pressed = nameOf(e)
      return actions.find(a => of(a.name) === pressed)
    },
    /** Waits for the key of an action; null stops waiting. */
    teach(name: string | null): void {
      learning.value = name
    },
    /** Gives the action that is being taught the key of an event. @returns what to tell the artist, if anything */
    learn(e: KeyboardEvent): string {
      const name = learning.value
      const key = nameOf(e)
      if (['Shift', 'Control', 'Alt', 'Meta'].includes(e.key) || name === null) return ''
      learning.value = null
      if (key === 'Escape') return ''
      const other = actions.find(a => a.name !== name && of(a.name) === key)
      if (TAKEN.includes(key) || other)
        return `${key} is taken${other ? ` by “${other.title}”` : ''}; nothing changed.`
      own.value = { ...own.value, [name]: key }
      localStorage.setItem(STORE, JSON.stringify(own.value))
      return ''
    },
    reset(): void {
      own.value = {}
      localStorage.removeItem(STORE)
    },
  }
}
