/** The field that an event is meant for, if keys and the clipboard belong to it. */
export function fieldOf(e: Event): HTMLElement | undefined {
  const t = e.target as HTMLElement
  return t.isContentEditable || ['INPUT', 'SELECT', 'TEXTAREA'].includes(t.tagName) ? t : undefined
}
