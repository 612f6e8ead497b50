/** For lists of choices: the page behind them goes on, unlocked. */
export const CALM = { bodyLock: false }
