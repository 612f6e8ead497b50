/** Several threads that do one piece of work in step. */
export interface Team {
  /** Number of this hand, and of all. */
  hand: number
  hands: number
  /** Words that all hands share: the first {@link TEAM_WORDS} are the team's own. */
  words: Int32Array
  /** Waits until every hand is here. Not on a page's own thread, which must not wait. */
  meet(): void
}

/** Words that a team keeps for itself: hands that have come, rounds that are over. */
export const TEAM_WORDS = 2

/** A team of one hand. */
export const alone = (): Team => ({ hand: 0, hands: 1, words: new Int32Array(TEAM_WORDS + 1), meet() {} })

/** Joins a team. @param words shared by all hands, at least {@link TEAM_WORDS} and one a hand, zero at first */
export function joinTeam(words: Int32Array, hand: number, hands: number): Team {
  return {
    hand,
    hands,
    words,
    meet() {
      const round = Atomics.load(words, 1)
      if (Atomics.add(words, 0, 1) === hands - 1) {
        Atomics.store(words, 0, 0)
        Atomics.add(words, 1, 1)
        Atomics.notify(words, 1)
      } else while (Atomics.load(words, 1) === round) Atomics.wait(words, 1, round, 50)
    },
  }
}
