/** Reads one picture in a worker of its own, which can be stopped where a library does not come back. */
import { readPicture } from '../../core/formats/pictures'

onmessage = ({ data }: MessageEvent<Uint8Array>) => {
  try {
    const picture = readPicture(data)
    postMessage({ picture }, { transfer: [picture.data.buffer as ArrayBuffer] })
  } catch (e) {
    postMessage({ error: e instanceof Error ? e.message : String(e) })
  }
}
