import { copyNodes, pasteNodes } from '../../core/formats/mtlx/pieces'
import { removeNode } from '../../core/network/edit'
import { fieldOf } from '../input/field'

/** Copying, cutting and pasting of nodes. @param picked names of those that are picked */
export function useClipboard(picked: () => string[]): void {
  const bench = useBench()

  /** Copy and paste are the browser's own: the clipboard holds MaterialX text. */
  function clip(e: ClipboardEvent): void {
    const d = bench.document
    if (!d || fieldOf(e) || String(getSelection())) return
    if (e.type === 'paste') {
      const text = e.clipboardData?.getData('text/plain') ?? ''
      if (!text.includes('<materialx')) return
      e.preventDefault()
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
      bench.edit(names.length === 1 ? `Cut ${names[0]}` : `Cut ${names.length} nodes`, x =>
        names.reduce((y, n) => removeNode(y, n), x),
      )
    )
      bench.node = null
  }
  for (const type of ['copy', 'cut', 'paste'] as const) {
    onMounted(() => document.addEventListener(type, clip))
    onBeforeUnmount(() => document.removeEventListener(type, clip))
  }
}
