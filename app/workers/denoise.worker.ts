/**
 * Denoises the shared film for the view at a few numbers of passes, off every other thread, with another hand like
 * this one. What is kept or exported never passes through here.
 */
import { createDenoiser, type Denoiser } from '../../core/render/denoise'
import { tileCount, type Film } from '../../core/render/film'
import { joinTeam } from '../../core/render/team'
import { CONTROL, DONE_FULL, DONE_ROW, EPOCHS } from '../../workers/protocol'
import { CALL, type DisplayMessage } from '../renderer/messages'

/** Passes at which the view is denoised anew. */
const AT = [256, 64, 16, 4]
/** How often a hand looks whether there is work, ms. */
const PACE = 25

let film: Film | undefined
let control: Int32Array | undefined
let out: Float32Array | undefined
let denoiser: Denoiser | undefined
let call: Int32Array = new Int32Array(0)
let hand = 0
let on = true
let done = { epoch: -1, passes: 0, mix: 0 }
let answered = 0
let mixSeen = 0

addEventListener('message', (event: MessageEvent<DisplayMessage>) => {
  const m = event.data
  if (m.kind === 'look') on = m.denoise
  if (m.kind !== 'team') return
  ;({ film, control, hand, call } = m)
  out = m.denoised
  denoiser = createDenoiser(film.width, film.height, m.memory, joinTeam(call.subarray(CALL.team), hand, m.hands))
  done = { epoch: -1, passes: 0, mix: 0 }
  answered = 0
})

/** The first hand calls the others to an epoch's picture when there are enough passes for it. */
function lead(f: Film, words: Int32Array): void {
  const epoch = Atomics.load(control!, CONTROL.epoch)
  const passes = Math.floor(
    Atomics.load(control!, CONTROL.done + (epoch % EPOCHS) * DONE_ROW + DONE_FULL) / tileCount(f.width, f.height),
  )
  const target = AT.find(n => passes >= n) ?? 0
  const mix = Atomics.load(f.mixes, 0)
  const resting = mix === mixSeen
  mixSeen = mix
  if (!on || !resting || target === 0 || (done.epoch === epoch && done.mix === mix && done.passes >= target))
    return
  Atomics.store(words, CALL.epoch, epoch)
  Atomics.add(words, CALL.number, 1)
  const picture = denoiser!.run(f, epoch)
  if (picture && Atomics.load(control!, CONTROL.epoch) === epoch && Atomics.load(f.mixes, 0) === mix) {
    out!.set(picture)
    Atomics.store(control!, CONTROL.denoisedPasses, denoiser!.passes)
    Atomics.store(control!, CONTROL.denoised, epoch)
    done = { epoch, passes: target, mix }
  }
}

function look(): void {
  if (film && denoiser) {
    if (hand === 0) lead(film, call)
    else if (Atomics.load(call, CALL.number) !== answered) {
      answered = Atomics.load(call, CALL.number)
      denoiser.run(film, Atomics.load(call, CALL.epoch))
    }
  }
  setTimeout(look, PACE)
}
look()
