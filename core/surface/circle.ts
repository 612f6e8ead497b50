/**
 * Cosine and sine of a drawn angle. The engine's own calls cost 20 ns each and the render loop asks for both:
 * about an eighth of a turn either way their Taylor series need eight terms to be exact to a double's last digits
 * (remainder below 5·10⁻¹⁷), and quarters of a turn only swap and negate.
 */
import { memory } from './memory'

/** What {@link onCircle} found: cosine, sine. */
export const { circle: CIRCLE } = memory

/** Cosine and sine of 2πu into {@link CIRCLE}. @param u turns, 0..1 */
export function onCircle(u: number): void {
  const quarters = (u * 4 + 0.5) | 0
  const x = 2 * Math.PI * (u - quarters * 0.25)
  const y = x * x
  const sin =
    x *
    (1 -
      y *
        (1 / 6) *
        (1 -
          y *
            (1 / 20) *
            (1 -
              y *
                (1 / 42) *
                (1 - y * (1 / 72) * (1 - y * (1 / 110) * (1 - y * (1 / 156) * (1 - y * (1 / 210))))))))
  const cos =
    1 -
    y *
      (1 / 2) *
      (1 -
        y *
          (1 / 12) *
          (1 -
            y *
              (1 / 30) *
              (1 -
                y *
                  (1 / 56) *
                  (1 - y * (1 / 90) * (1 - y * (1 / 132) * (1 - y * (1 / 182) * (1 - y * (1 / 240))))))))
  const swap = (quarters & 1) === 1
  const c = swap ? sin : cos
  const s = swap ? cos : sin
  CIRCLE[0] = ((quarters + 1) & 2) === 0 ? c : -c
  CIRCLE[1] = (quarters & 2) === 0 ? s : -s
}
