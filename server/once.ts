/** Something that is opened once, at first need, and again after it failed to open or was closed. */
export function once<T>(
  start: (url: string) => Promise<T>,
  end: (open: T) => Promise<unknown>,
): { open(url: string): Promise<T>; close(): Promise<void> } {
  let kept: Promise<T> | undefined
  return {
    open(url) {
      kept ??= start(url)
      kept.catch(() => {
        kept = undefined
      })
      return kept
    },
    async close() {
      const open = kept
      kept = undefined
      if (open) await end(await open)
    },
  }
}
