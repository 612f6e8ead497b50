import { findElement, nameOf } from '../../core/network/document'
import { isGroup } from '../../core/network/groups'
import { dolly } from '../camera/orbit'
import { fingerprint } from '../pictures/fingerprint'

/** Pictures are made one at a time, this far apart, ms: together they take a few hundredths of the view's time. */
const APART = 350
/** Nearer than a view that shows all of the part: cards are small. */
const CLOSE = 0.6

/**
 * Pictures of the cards of the network at hand, by path: what each node gives, on the part as the camera frames
 * it. Those of visible cards are kept current, one at a time.
 * @param visible paths of the cards that can be seen, those that matter most first
 */
export function useCardPictures(visible: () => string[]): Map<string, Float32Array> {
  const bench = useBench()
  const stage = useStage()
  const pictures = shallowReactive(new Map<string, Float32Array>())
  /** What pictures were made of: a node is drawn again when it, or what feeds it, changed. */
  const drawnOf = new Map<string, string>()
  let drawing = false
  let changedAt = 0
  watch(
    () => bench.document,
    () => {
      changedAt = performance.now()
    },
  )
  watch(
    () => bench.materialKey,
    () => {
      pictures.clear()
      drawnOf.clear()
    },
  )
  async function drawNext(): Promise<void> {
    const d = bench.document
    const s = stage.session
    const part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
    const framed = stage.cameraOn(bench.part)
    const camera = framed && dolly(framed, CLOSE)
    if (
      drawing ||
      !d ||
      !s ||
      part < 0 ||
      !camera ||
      performance.now() - changedAt < 300 ||
      (stage.drawn?.passes ?? 0) < 1
    )
      return
    const view = JSON.stringify([bench.part, camera, stage.loaded])
    for (const path of visible()) {
      const e = findElement(d, path)
      const made = view + fingerprint(d, path)
      if (!e || e.tag === 'surfacematerial' || drawnOf.get(path) === made) continue
      // a group shows its first output
      const end = isGroup(e) ? e.children.find(c => c.tag === 'output')?.attributes.nodename : undefined
      const node = isGroup(e) ? end && `${nameOf(e)}/${end}` : path
      if (node === undefined) continue
      drawing = true
      try {
        const program = stage.program(d, undefined, node)
        pictures.set(path, await s.swatch(program, stage.maps(program), part, camera, 44))
        drawnOf.set(path, made)
      } finally {
        drawing = false
      }
      return
    }
  }
  const pace = setInterval(() => void drawNext(), APART)
  onBeforeUnmount(() => clearInterval(pace))
  return pictures
}
