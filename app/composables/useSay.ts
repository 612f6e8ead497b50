/** Says what happened at the foot of the page. */
export function useSay() {
  const toast = useToast()
  return {
    note: (title: string, description?: string) => void toast.add({ title, description, color: 'neutral', duration: 3500, icon: '' }),
    fault: (title: string, description?: string) => void toast.add({ title, description, color: 'neutral', duration: 12000, icon: 'i-lucide-triangle-alert' }),
  }
}

/** Message of an error from the server or elsewhere. */
export function messageOf(e: unknown): string {
  const data = (e as { data?: { message?: string } })?.data
  return data?.message ?? (e instanceof Error ? e.message : String(e))
}
