import { balanced } from '../../core/colour/balance'
import { labFromRec709 } from '../../core/colour/lab'
import { toByte } from '../../core/render/display'

/** Reading of the pixel under the pointer. */
export function usePixelProbe() {
  const stage = useStage()
  /**
   * Pixel under the pointer, linear Rec.709, and what is said of it: display bytes, Lab under D65, stops from mid
   * grey.
   */
  const probed = ref<number[] | null>(null)
  const said = computed(() => {
    const c = probed.value
    if (!c || !stage.probing) return ''
    const { exposure, balance } = stage.look
    const shown = balanced(balance, c).map(x => toByte(x * 2 ** exposure))
    const lab = labFromRec709(c)
    const y = 0.2126 * c[0]! + 0.7152 * c[1]! + 0.0722 * c[2]!
    const stops = Math.log2(y / 0.18)
    const ev = y > 0 ? (stops >= 0 ? '+' : '') + stops.toFixed(1) : '−∞'
    const fixed = (values: ArrayLike<number>, digits: number) =>
      Array.from(values, x => x.toFixed(digits)).join(' ')
    return [
      `linear ${fixed(c, 3)}`,
      `display ${shown.join(' ')}`,
      `Lab ${fixed(lab, 1)}`,
      `${ev} EV from 18 %`,
    ].join(' · ')
  })

  return { probed, said }
}
