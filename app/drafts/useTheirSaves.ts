/**
 * Newest version of the project at hand that was saved elsewhere, told by the server as it happens. A page that is not
 * in sight does not listen: a browser has six connections to a server.
 * @param busy whether a save of this page's own is under way
 */
export function useTheirSaves(busy: Readonly<Ref<boolean>>) {
  const bench = useBench()
  const heard = ref(0)
  /** Versions up to this one are known, and left as they are. */
  const passed = ref(0)
  let source: EventSource | undefined
  function listen(): void {
    source?.close()
    source = undefined
    const id = bench.project?.id
    if (id === undefined || document.visibilityState !== 'visible') return
    source = new EventSource(`/api/projects/${id}/saves`)
    source.onmessage = e => {
      heard.value = Math.max(heard.value, Number(e.data) || 0)
    }
  }
  watch(() => bench.project?.id, listen)
  document.addEventListener('visibilitychange', listen)
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', listen)
    source?.close()
  })
  /** Number of their version; null where there is none that is newer than ours. */
  const theirs = computed(() => {
    const at = Math.max(bench.project?.head ?? Infinity, passed.value)
    return !busy.value && heard.value > at ? heard.value : null
  })
  return {
    theirs,
    pass: () => {
      passed.value = heard.value
    },
  }
}
