/**
 * A field that is typed into: what cannot be read stays there, with the reason.
 * @param read what a text says, or why it cannot be read, in words
 * @param take is given what was read
 */
export function useTyped<T>(read: (text: string) => T | string, take: (value: T) => void) {
  const typed = ref<string | null>(null)
  /** Why what was typed was refused. */
  const wrong = ref('')
  function enter(): void {
    if (typed.value === null) return
    const v = read(typed.value)
    wrong.value = typeof v === 'string' ? v : ''
    if (typeof v === 'string') return
    take(v)
    typed.value = null
  }
  /** Forgets what was typed. */
  function leave(): void {
    typed.value = null
    wrong.value = ''
  }
  return { typed, wrong, enter, leave }
}
