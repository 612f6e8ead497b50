/** A further hand of the denoiser in a Node thread: joins a team and denoises an epoch as often as it is told. */
import { parentPort } from 'node:worker_threads'
import { createDenoiser } from '../core/render/denoise'
import type { DenoiseMemory } from '../core/render/denoise-memory'
import type { Film } from '../core/render/film'
import { joinTeam } from '../core/render/team'

export interface HandRequest {
  film: Film
  memory: DenoiseMemory
  words: Int32Array
  hand: number
  hands: number
  epoch: number
  times: number
}

parentPort!.on('message', (r: HandRequest) => {
  const denoiser = createDenoiser(r.film.width, r.film.height, r.memory, joinTeam(r.words, r.hand, r.hands))
  for (let i = 0; i < r.times; i++) denoiser.run(r.film, r.epoch)
})
parentPort!.postMessage({ kind: 'ready' })
