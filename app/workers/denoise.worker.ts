/** Denoises the shared film for the view at a few numbers of passes, off every other thread. What is kept or exported never passes through here. */
import { createDenoiser, type Denoiser } from '../../core/render/denoise'
import { tileCount, type Film } from '../../core/render/film'
import { CONTROL, DONE_FULL, DONE_ROW, EPOCHS } from '../../workers/protocol'
import type { DisplayMessage } from '../renderer/messages'

/** Passes at which the view is denoised anew. */
const AT = [256, 64, 16, 4]

let film: Film | undefined, control: Int32Array | undefined, out: Float32Array | undefined, denoiser: Denoiser | undefined, on = true
let done = { epoch: -1, passes: 0 }

addEventListener('message', (event: MessageEvent<DisplayMessage>) => {
  const m = event.data
  if (m.kind === 'look') on = m.denoise
  if (m.kind !== 'film') return
  film = m.film
  control = m.control
  out = m.denoised
  denoiser = createDenoiser(film.width, film.height)
  done = { epoch: -1, passes: 0 }
})

function look(): void {
  if (on && film && control && out && denoiser) {
    const epoch = Atomics.load(control, CONTROL.epoch), passes = Math.floor(Atomics.load(control, CONTROL.done + epoch % EPOCHS * DONE_ROW + DONE_FULL) / tileCount(film.width, film.height))
    const target = AT.find(n => passes >= n) ?? 0
    if (target > 0 && (done.epoch !== epoch || done.passes < target)) {
      const picture = denoiser.run(film, epoch)
      if (picture && Atomics.load(control, CONTROL.epoch) === epoch) {
        out.set(picture)
        Atomics.store(control, CONTROL.denoisedPasses, denoiser.passes)
        Atomics.store(control, CONTROL.denoised, epoch)
        done = { epoch, passes: target }
      }
    }
  }
  setTimeout(look, 40)
}
look()
