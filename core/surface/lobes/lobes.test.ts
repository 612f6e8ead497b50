import { readFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { dispatchText } from '../../../scripts/write-dispatch.mjs'
import { accumulate } from '../accumulate'
import { beginSurface } from '../begin'
import { drawCosine } from '../cosine-draw'
import { evaluate } from '../evaluate'
import { finishSurface } from '../finish'
import { PASSAGE, registerLobe, type Lobe } from '../lobe'
import { memory, now, scattered } from '../memory'
import { newLobe } from '../open-lobe'
import { sample } from '../sample'
import { ASK, FACET, LOBE } from '../slots'
import { setSpec } from '../spec'
import { pushReflection } from './reflection'

const { ask, facet, lobes, value } = memory
const text = (file: string) => readFileSync(new URL(file, import.meta.url), 'utf8')

it('the switches are those of the list', async () =>
  expect(text('./dispatch.ts')).toBe(await dispatchText('lobes', text('./kinds.ts'))))

describe('a lobe that is registered from outside', () => {
  /** f = (e + 2)/(2π)·cosᵉ θi: of albedo 1 from everywhere, ∫ f·cos dω = 1 (by integration). */
  const powered = (e: number): Lobe => ({
    passage: PASSAGE.far,
    answers: () => true,
    evaluate(o) {
      const ci = facet[FACET.light]!
      if (!now.reflected || ci <= 0) return
      ask[ASK.pdf] = ci / Math.PI
      ask[ASK.factor] = ((e + 2) / (2 * Math.PI)) * ci ** e * ci
      accumulate(o)
    },
    sample: o => drawCosine(o, false),
    albedo: () => 1,
    pick: () => 1,
    guide: () => 1,
    roughness: () => 1,
    straight: () => undefined,
  })
  const push = (kind: number) => {
    setSpec(0.5, 0.5, 0.5, 1, 1, 0, 0, 1)
    return newLobe(kind, -1)
  }
  beforeEach(() => {
    memory.basis.fill(1 / 3)
    beginSurface(0.6, 0, 0.8, 0, 0, 1)
  })
  afterEach(() => memory.basis.fill(0))

  it('is evaluated, drawn and weighed beside those of the list', () => {
    const e = 3
    const o = push(registerLobe(powered(e)))
    setSpec(0.5, 0.5, 0.5, 0.3, 1.5, 0, 0, 1)
    pushReflection(-1)
    expect(finishSurface()).toBe(true)
    const share = lobes[o + LOBE.pick]!
    expect(share).toBeGreaterThan(0.5)
    // straight down only the first answers within the noise of a narrow reflection towards −x
    const pdf = evaluate(0, 0, 1)
    expect(pdf).toBeGreaterThan(share / Math.PI - 1e-12)
    expect(value[5]).toBeGreaterThan((0.5 * (e + 2)) / (2 * Math.PI) - 1e-12)
    let sum = 0
    const n = 40_000
    let s = 7
    const random = () => (s = (s * 48271) % 2147483647) / 2147483647
    for (let i = 0; i < n; i++) if (sample(random(), random(), random())) sum += value[5]!
    // ½ of all light from the lobe whose albedo is 1, and what a face of index 1.5 at 36.9° gives of the other
    // half: unpolarised Fresnel there is 0.0439 (Born & Wolf §1.5.2)
    expect(sum / n).toBeGreaterThan(0.5)
    expect(sum / n).toBeCloseTo(0.5 + 0.5 * 0.0439, 2)
    expect(scattered.passage).toBe(PASSAGE.far)
  })
  it('stands alone', () => {
    push(registerLobe(powered(1)))
    expect(finishSurface()).toBe(true)
    expect(evaluate(0, 0.6, 0.8)).toBeCloseTo(0.8 / Math.PI, 12)
    expect(value[0]).toBeCloseTo(0.5 * (3 / (2 * Math.PI)) * 0.64, 12)
  })
})
