import type { Page } from '@playwright/test'

/** Kinds of events of Chromium's timeline that run the page's own code. */
const WORK = new Set(['EventDispatch', 'HandlePostMessage', 'FunctionCall', 'TimerFire', 'FireAnimationFrame'])
interface Traced {
  name: string
  ph: string
  pid: number
  tid: number
  dur?: number
  /** Processor time, µs. */ tdur?: number
  args?: { name?: string }
}

/**
 * Processor time that the page's own thread spends at a time in its code while something is done, ms, by
 * Chromium's own trace: the most, and how many took more than four.
 */
export async function pageThread(
  page: Page,
  act: () => Promise<void>,
): Promise<{ most: number; overFour: number; of: number }> {
  const cdp = await page.context().newCDPSession(page)
  const events: Traced[] = []
  cdp.on('Tracing.dataCollected', e => events.push(...(e.value as unknown as Traced[])))
  await cdp.send('Tracing.start', {
    transferMode: 'ReportEvents',
    traceConfig: { includedCategories: ['devtools.timeline'] },
  })
  await act()
  const complete = new Promise(r => cdp.once('Tracing.tracingComplete', r))
  await cdp.send('Tracing.end')
  await complete
  await cdp.detach()
  const thread = (e: Traced) => `${e.pid}:${e.tid}`
  const pages = new Set(
    events.filter(e => e.name === 'thread_name' && e.args?.name === 'CrRendererMain').map(thread),
  )
  const times = events
    .filter(e => e.ph === 'X' && WORK.has(e.name) && pages.has(thread(e)))
    .map(e => (e.tdur ?? e.dur ?? 0) / 1000)
  return { most: +Math.max(0, ...times).toFixed(2), overFour: times.filter(t => t > 4).length, of: times.length }
}
