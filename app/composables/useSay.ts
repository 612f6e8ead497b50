/** Says what happened at the foot of the page. */
export function useSay() {
  const toast = useToast()
  return {
    /** @param offer something to do about it, as a button */
    note: (title: string, description?: string, offer?: { label: string, run(): void }) => void toast.add({ title, description, color: 'neutral', duration: offer ? 10000 : 3500, icon: '', ...(offer ? { actions: [{ label: offer.label, color: 'neutral', variant: 'outline', onClick: offer.run }] } : {}) }),
    fault: (title: string, description?: string) => void toast.add({ title, description, color: 'neutral', duration: 12000, icon: 'i-lucide-triangle-alert' }),
  }
}

/** Message of an error from the server or elsewhere. */
export function messageOf(e: unknown): string {
  const data = (e as { data?: { message?: string } })?.data
  return data?.message ?? (e instanceof Error ? e.message : String(e))
}
