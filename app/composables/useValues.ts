import { gridRays } from '../pictures/histogram'
import { findElement } from '../../core/network/document'
import { fingerprint } from '../pictures/fingerprint'

/** Rays a side of the grid over the part. */
const ACROSS = 56

/**
 * Values that a node gives where the camera sees the part at hand, for histograms: taken anew, a little behind,
 * when the node or what feeds it changes.
 * @param node name of the node; undefined gives none
 */
export function useValues(node: () => string | undefined): Ref<Float64Array> {
  const bench = useBench()
  const stage = useStage()
  const values = shallowRef(new Float64Array(0))
  let of = ''
  let later: ReturnType<typeof setTimeout> | undefined
  async function take(): Promise<void> {
    const name = node()
    const d = bench.document
    const s = stage.session
    const part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
    const framed = stage.cameraOn(bench.part)
    if (name === undefined || !d || !findElement(d, name)) {
      values.value = new Float64Array(0)
      of = ''
      return
    }
    if (!s || part < 0 || !framed) return
    const key = JSON.stringify([bench.part, stage.loaded]) + fingerprint(d, name)
    if (key === of) return
    of = key
    const program = stage.program(d, undefined, name)
    const answer = await s.profile([{ program, maps: stage.maps(program) }], gridRays(framed, ACROSS), part)
    if (of === key) values.value = answer.values[0]!.filter((_, i) => Number.isFinite(answer.positions[i * 3]!))
  }
  const soon = () => {
    clearTimeout(later)
    later = setTimeout(() => void take(), 250)
  }
  watch([node, () => bench.document, () => bench.part, () => stage.loaded, () => stage.geometry], soon, {
    immediate: true,
  })
  onBeforeUnmount(() => clearTimeout(later))
  return values
}
