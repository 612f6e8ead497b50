import type { Curves } from '../../core/judge/curves'
import type { Program } from '../../core/network/compile'
import type { CurvesAnswer, CurvesRequest } from '../workers/curves.worker'

/**
 * Curves of a program at an angle, computed in a worker of their own: coarse at once, fine when nothing changes
 * any more.
 */
export function useCurves(program: () => Program | null, angle: () => number, fine = 192) {
  const curves = shallowRef<Curves | null>(null)
  const fault = ref('')
  const busy = ref(false)
  let worker: Worker | null = null
  let sent = 0
  let under = false
  let later: ReturnType<typeof setTimeout> | undefined
  let waiting: Omit<CurvesRequest, 'id'> | null = null

  function send(r: Omit<CurvesRequest, 'id'>): void {
    if (under) {
      waiting = r
      return
    }
    under = true
    worker ??= start()
    worker.postMessage({ id: ++sent, ...r } satisfies CurvesRequest)
  }
  function start(): Worker {
    const w = new Worker(new URL('../workers/curves.worker.ts', import.meta.url), { type: 'module' })
    w.onmessage = (e: MessageEvent<CurvesAnswer>) => {
      under = false
      fault.value = e.data.fault ?? ''
      if (e.data.curves) curves.value = e.data.curves
      const next = waiting
      waiting = null
      if (next) send(next)
      else busy.value = later !== undefined
    }
    return w
  }
  watch(
    [program, angle],
    () => {
      const p = program()
      clearTimeout(later)
      if (!p) {
        curves.value = null
        return
      }
      busy.value = true
      send({ program: p, angle: angle(), samples: 24 })
      later = setTimeout(() => {
        later = undefined
        send({ program: p, angle: angle(), samples: fine })
      }, 350)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    clearTimeout(later)
    worker?.terminate()
  })
  return { curves, fault, busy }
}
