/** Pictures that a library unpacks are read by a worker of their own, for so long. */
import { needsLibrary } from '../../core/formats/pictures/needs-library'
import type { Picture } from '../../core/formats/pictures/picture'

const MOST_MS = 60_000

/** Reads a picture. @throws Error where it is damaged, too large, or takes too long */
export async function readPatiently(bytes: Uint8Array): Promise<Picture> {
  if (!needsLibrary(bytes)) return (await import('./readers')).readPicture(bytes)
  const worker = new Worker(new URL('./unpack.worker.ts', import.meta.url), { type: 'module' })
  try {
    return await new Promise<Picture>((resolve, reject) => {
      const late = setTimeout(
        () => reject(new Error('the file takes longer than a minute to unpack: it is damaged, or far too large')),
        MOST_MS,
      )
      worker.onmessage = ({ data }: MessageEvent<{ picture?: Picture; error?: string }>) => {
        clearTimeout(late)
        if (data.picture) resolve(data.picture)
        else reject(new Error(data.error))
      }
      worker.onerror = () => reject(new Error('what unpacks it could not be started'))
      worker.postMessage(bytes)
    })
  } finally {
    worker.terminate()
  }
}
