export interface Workers {
  render: Worker[]
  display: Worker
  denoise: Worker[]
}

export const startRenderWorker = (): Worker =>
  new Worker(new URL('../workers/render.worker.ts', import.meta.url), { type: 'module' })

/**
 * Starts the render workers, one a processor, the worker that draws, and the two hands that denoise for the view.
 */
export function startWorkers(): Workers {
  const threads = Math.max(1, Math.min(16, navigator.hardwareConcurrency || 2))
  return {
    render: Array.from({ length: threads }, startRenderWorker),
    display: new Worker(new URL('../workers/display.worker.ts', import.meta.url), { type: 'module' }),
    denoise: Array.from(
      { length: Math.min(2, threads) },
      () => new Worker(new URL('../workers/denoise.worker.ts', import.meta.url), { type: 'module' }),
    ),
  }
}
