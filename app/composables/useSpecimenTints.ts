import { specimens } from '../../core/network/specimens'
import { starters } from '../../core/network/starters'
import { css, documentTint } from '../pictures/tint'
import type { Tint } from '../workers/tints.worker'

/**
 * Colours of swatches of specimens and starters, by key: at first the plain one of their documents, then what measured
 * metals and films reflect, as it is found.
 */
export function useSpecimenTints() {
  const tints = shallowReactive(
    new Map([...specimens, ...starters].map(s => [s.key, documentTint(s.make())] as const)),
  )
  const worker = new Worker(new URL('../workers/tints.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = ({ data }: MessageEvent<Tint>) => void tints.set(data.key, css(data.rgb))
  onBeforeUnmount(() => worker.terminate())
  return tints
}
