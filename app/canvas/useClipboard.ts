import { copyNodes, pasteNodes } from '../../core/formats/mtlx/pieces'
import { removeNodes } from '../../core/network/edit'
import { fieldOf } from '../input/field'

/**
 * Copying, cutting and pasting of nodes.
 * @param picked names of those that are picked
 * @param canvas where they stand: after a press there they are meant, whatever text is marked elsewhere
 * @param begins is told before nodes are pasted, which takes a while with many
 */
export function useClipboard(
  picked: () => string[],
  canvas: Readonly<Ref<HTMLElement | undefined>>,
  begins: () => void,
): void {
  const bench = useBench()
  let onCanvas = false
  const pressed = (e: Event) => {
    onCanvas = canvas.value?.contains(e.target as Node) ?? false
  }
  onMounted(() => document.addEventListener('pointerdown', pressed, true))
  onBeforeUnmount(() => document.removeEventListener('pointerdown', pressed, true))

  /** Copy and paste are the browser's own: the clipboard holds MaterialX text. */
  function clip(e: ClipboardEvent): void {
    const d = bench.document
    if (!d || fieldOf(e) || (!onCanvas && String(getSelection()))) return
    if (e.type === 'paste') {
      const text = e.clipboardData?.getData('text/plain') ?? ''
      if (!text.includes('<materialx')) return
      e.preventDefault()
      begins()
      let names: string[] = []
      try {
        if (
          bench.edit('Paste', x => {
            const r = pasteNodes(x, text, 0.4, 0.6)
            names = r.names
            return r.document
          })
        )
          bench.node = names.at(-1) ?? null
      } catch (x) {
        bench.refused = messageOf(x)
      }
      return
    }
    const names = picked()
    if (!names.length) return
    e.preventDefault()
    e.clipboardData?.setData('text/plain', copyNodes(d, names))
    if (
      e.type === 'cut' &&
      bench.edit(names.length === 1 ? `Cut ${names.join()}` : `Cut ${names.length} nodes`, x =>
        removeNodes(x, names),
      )
    )
      bench.node = null
  }
  for (const type of ['copy', 'cut', 'paste'] as const) {
    onMounted(() => document.addEventListener(type, clip))
    onBeforeUnmount(() => document.removeEventListener(type, clip))
  }
}
