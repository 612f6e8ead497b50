/** The switches over all lobes, by scripts/write-dispatch.mjs; what was registered is the default. */
import { KIND } from './kinds'
import { registeredLobe, UNDER_COAT, type Lobe } from '../lobe'
import * as againDiffuse from './again-diffuse'
import * as againGlass from './again-glass'
import * as againMetal from './again-metal'
import * as conductor from './conductor'
import * as diffuse from './diffuse'
import * as fuzz from './fuzz'
import * as glass from './glass'
import * as metal from './metal'
import * as reflection from './reflection'
import * as roughDiffuse from './rough-diffuse'
import * as sheet from './sheet'
import * as through from './through'
import * as translucent from './translucent'
import * as walk from './walk'

/** Those of the list, by number. */
const LISTED: readonly Lobe[] = [
  diffuse,
  reflection,
  conductor,
  metal,
  glass,
  sheet,
  roughDiffuse,
  againDiffuse,
  againMetal,
  againGlass,
  fuzz,
  translucent,
  walk,
  through,
]

/** One of them by the number of its kind. */
export const lobeOfKind = (kind: number): Lobe => LISTED[kind] ?? registeredLobe(kind)

const PASSAGES = Int32Array.from(LISTED, lobe => lobe.passage)
/** What becomes of light that passes a lobe of a kind. */
export const passageOfLobe = (kind: number): number =>
  kind < PASSAGES.length ? PASSAGES[kind]! : registeredLobe(kind).passage

const UNDER_COATS = Int32Array.from(LISTED, lobe => lobe.underCoat ?? UNDER_COAT.scatters)
/** How a lobe of a kind answers light that a coat above throws back to it. */
export const underCoatOfLobe = (kind: number): number =>
  kind < UNDER_COATS.length ? UNDER_COATS[kind]! : (registeredLobe(kind).underCoat ?? UNDER_COAT.scatters)

const BEHIND = LISTED.map(lobe => lobe.behind === true)
/** Whether a lobe of a kind answers light that comes from behind the surface. */
export const answersBehind = (kind: number): boolean =>
  kind < BEHIND.length ? BEHIND[kind]! : registeredLobe(kind).behind === true

export function evaluateLobe(kind: number, o: number): void {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.evaluate(o)
    case KIND.reflection:
      return reflection.evaluate(o)
    case KIND.conductor:
      return conductor.evaluate(o)
    case KIND.metal:
      return metal.evaluate(o)
    case KIND.glass:
      return glass.evaluate(o)
    case KIND.sheet:
      return sheet.evaluate(o)
    case KIND['rough-diffuse']:
      return roughDiffuse.evaluate(o)
    case KIND['again-diffuse']:
      return againDiffuse.evaluate(o)
    case KIND['again-metal']:
      return againMetal.evaluate(o)
    case KIND['again-glass']:
      return againGlass.evaluate(o)
    case KIND.fuzz:
      return fuzz.evaluate(o)
    case KIND.translucent:
      return translucent.evaluate(o)
    case KIND.walk:
      return walk.evaluate(o)
    case KIND.through:
      return through.evaluate(o)
    default:
      return registeredLobe(kind).evaluate(o)
  }
}

export function sampleByLobe(kind: number, o: number): boolean {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.sample(o)
    case KIND.reflection:
      return reflection.sample(o)
    case KIND.conductor:
      return conductor.sample(o)
    case KIND.metal:
      return metal.sample(o)
    case KIND.glass:
      return glass.sample(o)
    case KIND.sheet:
      return sheet.sample(o)
    case KIND['rough-diffuse']:
      return roughDiffuse.sample(o)
    case KIND['again-diffuse']:
      return againDiffuse.sample(o)
    case KIND['again-metal']:
      return againMetal.sample(o)
    case KIND['again-glass']:
      return againGlass.sample(o)
    case KIND.fuzz:
      return fuzz.sample(o)
    case KIND.translucent:
      return translucent.sample(o)
    case KIND.walk:
      return walk.sample(o)
    case KIND.through:
      return through.sample(o)
    default:
      return registeredLobe(kind).sample(o)
  }
}

export function lobeAnswers(kind: number, o: number): boolean {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.answers(o)
    case KIND.reflection:
      return reflection.answers(o)
    case KIND.conductor:
      return conductor.answers(o)
    case KIND.metal:
      return metal.answers(o)
    case KIND.glass:
      return glass.answers(o)
    case KIND.sheet:
      return sheet.answers(o)
    case KIND['rough-diffuse']:
      return roughDiffuse.answers(o)
    case KIND['again-diffuse']:
      return againDiffuse.answers(o)
    case KIND['again-metal']:
      return againMetal.answers(o)
    case KIND['again-glass']:
      return againGlass.answers(o)
    case KIND.fuzz:
      return fuzz.answers(o)
    case KIND.translucent:
      return translucent.answers(o)
    case KIND.walk:
      return walk.answers(o)
    case KIND.through:
      return through.answers(o)
    default:
      return registeredLobe(kind).answers(o)
  }
}

export function pickOfLobe(kind: number, o: number): number {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.pick(o)
    case KIND.reflection:
      return reflection.pick(o)
    case KIND.conductor:
      return conductor.pick(o)
    case KIND.metal:
      return metal.pick(o)
    case KIND.glass:
      return glass.pick(o)
    case KIND.sheet:
      return sheet.pick(o)
    case KIND['rough-diffuse']:
      return roughDiffuse.pick(o)
    case KIND['again-diffuse']:
      return againDiffuse.pick(o)
    case KIND['again-metal']:
      return againMetal.pick(o)
    case KIND['again-glass']:
      return againGlass.pick(o)
    case KIND.fuzz:
      return fuzz.pick(o)
    case KIND.translucent:
      return translucent.pick(o)
    case KIND.walk:
      return walk.pick(o)
    case KIND.through:
      return through.pick(o)
    default:
      return registeredLobe(kind).pick(o)
  }
}

export function albedoOfLobe(kind: number, o: number, channel: number): number {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.albedo(o, channel)
    case KIND.reflection:
      return reflection.albedo(o, channel)
    case KIND.conductor:
      return conductor.albedo(o, channel)
    case KIND.metal:
      return metal.albedo(o, channel)
    case KIND.glass:
      return glass.albedo(o, channel)
    case KIND.sheet:
      return sheet.albedo(o, channel)
    case KIND['rough-diffuse']:
      return roughDiffuse.albedo(o, channel)
    case KIND['again-diffuse']:
      return againDiffuse.albedo(o, channel)
    case KIND['again-metal']:
      return againMetal.albedo(o, channel)
    case KIND['again-glass']:
      return againGlass.albedo(o, channel)
    case KIND.fuzz:
      return fuzz.albedo(o, channel)
    case KIND.translucent:
      return translucent.albedo(o, channel)
    case KIND.walk:
      return walk.albedo(o, channel)
    case KIND.through:
      return through.albedo(o, channel)
    default:
      return registeredLobe(kind).albedo(o, channel)
  }
}

export function roughnessOfLobe(kind: number, o: number): number {
  switch (kind) {
    case KIND.diffuse:
      return diffuse.roughness(o)
    case KIND.reflection:
      return reflection.roughness(o)
    case KIND.conductor:
      return conductor.roughness(o)
    case KIND.metal:
      return metal.roughness(o)
    case KIND.glass:
      return glass.roughness(o)
    case KIND.sheet:
      return sheet.roughness(o)
    case KIND['rough-diffuse']:
      return roughDiffuse.roughness(o)
    case KIND['again-diffuse']:
      return againDiffuse.roughness(o)
    case KIND['again-metal']:
      return againMetal.roughness(o)
    case KIND['again-glass']:
      return againGlass.roughness(o)
    case KIND.fuzz:
      return fuzz.roughness(o)
    case KIND.translucent:
      return translucent.roughness(o)
    case KIND.walk:
      return walk.roughness(o)
    case KIND.through:
      return through.roughness(o)
    default:
      return registeredLobe(kind).roughness(o)
  }
}
