import type { useVueFlow } from '@vue-flow/core'

/** Where the canvas of each material was left: it comes back there; one that is new is fitted. */
export function useViews(
  flow: ReturnType<typeof useVueFlow>,
  material: () => string | null,
  fit: () => void,
): void {
  const left = new Map<string, { x: number; y: number; zoom: number }>()
  watch(material, (now, before) => {
    if (before !== null) left.set(before, { ...flow.viewport.value })
    const view = now !== null ? left.get(now) : undefined
    if (view) void flow.setViewport(view)
    else fit()
  })
}
