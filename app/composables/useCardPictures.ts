import { nameOf, type Element } from '../../core/network/document'
import { elementAt } from '../../core/network/ends'
import { isGroup } from '../../core/network/groups'
import { dolly } from '../../core/scene/orbit'
import { fingerprint } from '../pictures/fingerprint'

/**
 * A card without a picture gets a quick one at once; one at a time, with some room between them, ms, quick ones are
 * made anew as clear as a card shows. Together they take less than a tenth of the view's time.
 */
const QUICK = { size: 22, passes: 2 }
const CLEAR = { size: 44, passes: 4, apart: 350 }
/** How often there is something to make, how many are under way at most, and how often they are shown, ms. */
const PACE = 20
const MOST = 4
const SHOW = 600
/** A canvas of fewer pictures is drawn with each. */
const FEW = 40
/** How long nothing is looked for where nothing was wanting, ms. */
const REST = 300
/** After so long an answer is not waited for any more, ms: the worker that was asked may have been replaced. */
const LOST = 10_000
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
  /** What pictures were made of, by what and where they show: drawn again when a node, or what feeds it, changed. */
  const madeOf = new Map<string, { view: string; of: number; clear: boolean }>()
  /** Pictures that wait to be shown: each time that some are shown the canvas is drawn. */
  const made = new Map<string, Float32Array>()
  /** Cards whose pictures are under way, and since when. */
  const drawing = new Map<string, number>()
  let cleared = 0
  let resting = 0
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
      madeOf.clear()
      made.clear()
    },
  )
  /** The next card that wants a picture: one that has none, else one whose picture is another's or quick. */
  function wanting(
    d: Element,
    view: string,
    may: boolean,
  ): { path: string; of: number; clear: boolean } | undefined {
    let stale: { path: string; of: number; clear: boolean } | undefined
    for (const path of visible()) {
      const e = drawing.has(path) ? undefined : elementAt(d, path)
      if (!e || e.tag === 'surfacematerial') continue
      const has = madeOf.get(path)
      const of = fingerprint(d, path)
      if (!has) return { path, of, clear: false }
      if (may && !stale && !(has.clear && has.of === of && has.view === view)) stale = { path, of, clear: true }
    }
    return stale
  }
  async function drawNext(): Promise<void> {
    const d = bench.document
    const s = stage.session
    const material = bench.materialKey
    const part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
    const framed = stage.cameraOn(bench.part)
    const camera = framed && dolly(framed, CLOSE)
    const now = performance.now()
    for (const [path, since] of drawing) if (now - since > LOST) drawing.delete(path)
    if (now < resting || drawing.size >= MOST || !d || !s || part < 0 || !camera) return
    if (now - changedAt < 300 || (stage.drawn?.passes ?? 0) < 1) return
    const view = JSON.stringify([bench.part, camera, stage.loaded])
    const next = wanting(d, view, now - cleared >= CLEAR.apart && drawing.size === 0)
    if (!next) {
      resting = now + REST
      return
    }
    const { path, of, clear } = next
    const e = elementAt(d, path)!
    // a group shows its first output
    const end = isGroup(e) ? e.children.find(c => c.tag === 'output')?.attributes.nodename : undefined
    const node = isGroup(e) ? end && `${nameOf(e)}/${end}` : path
    if (node === undefined) {
      madeOf.set(path, { view, of, clear: true })
      return
    }
    if (clear) cleared = now
    drawing.set(path, now)
    try {
      const program = stage.program(d, undefined, node)
      const rgb = await s.swatch(program, stage.maps(program), part, camera, clear ? CLEAR : QUICK)
      if (bench.materialKey !== material) return
      made.set(path, rgb)
      madeOf.set(path, { view, of, clear })
      if (made.size === 1) setTimeout(showMade, pictures.size < FEW && drawing.size === 1 ? 0 : SHOW)
    } finally {
      drawing.delete(path)
    }
  }
  function showMade(): void {
    for (const [path, rgb] of made) pictures.set(path, rgb)
    made.clear()
  }
  const pace = setInterval(() => void drawNext(), PACE)
  onBeforeUnmount(() => clearInterval(pace))
  return pictures
}
