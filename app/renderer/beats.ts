import { CONTROL } from '../../workers/protocol'

/**
 * How often workers are asked, and how long one may leave that unanswered, ms: between two answers lie some tiles,
 * of milliseconds each.
 */
const PACE = 1000
const PATIENCE = 6000

/**
 * Asks the workers for a sign and gives up those that hang.
 * @param ask sends a beat to all of them; each writes its number where it is seen
 * @param giveUp called with the number of a worker that does not answer
 * @returns ends the watching
 */
export function watchBeats(
  control: Int32Array,
  hands: number,
  ask: (beat: number) => void,
  giveUp: (hand: number) => void,
  now: () => number = () => performance.now(),
): () => void {
  const answered = Array.from({ length: hands }, () => ({ beat: 0, at: now() }))
  let beat = 0
  let looked = now()
  const timer = setInterval(() => {
    // a page that slept itself knows nothing of its workers
    const slept = now() - looked > 3 * PACE
    looked = now()
    answered.forEach((a, hand) => {
      const last = Atomics.load(control, CONTROL.beats + hand)
      if (last !== a.beat || slept) {
        a.beat = last
        a.at = now()
      } else if (now() - a.at >= PATIENCE) {
        a.at = now()
        giveUp(hand)
      }
    })
    ask(++beat)
  }, PACE)
  return () => clearInterval(timer)
}
