import { sectionWidths } from './section'

/** Width of the pane before it is measured: that of a screen of 1280, pixels. */
const USUAL = 318

/** How wide the drawing and its labels are in the pane as it stands. */
export function useSectionWidths(pane: Readonly<Ref<HTMLElement | undefined>>) {
  const wide = ref(USUAL)
  const observer = new ResizeObserver(([entry]) => {
    wide.value = entry!.contentRect.width || wide.value
  })
  onMounted(() => observer.observe(pane.value!))
  onBeforeUnmount(() => observer.disconnect())
  return computed(() => sectionWidths(wide.value))
}
