/** The cross-section as a drawing: how high each layer stands along the line A–A, pixels. */
import { childNamed, inputOf, type Element } from '../../core/network/document'
import type { Layer } from '../../core/network/layers'
import { surfaceTint } from '../pictures/tint'

export type Hatch = 'metal' | 'glass' | 'polymer' | 'powder'
/** A layer with what the drawing and its label say of it. */
export interface DrawnLayer extends Layer {
  tint: string
  hatch: Hatch
  detail: string
  mask?: string
  share?: number
}
export interface Band {
  layer: DrawnLayer
  path: string
  top: number
  middle: number
  from: number
  to: number
  kept: number
}
export interface Section {
  bands: Band[]
  ground: number
  bottom: number
  scale: number
}

/** Where the drawing begins and the height of its parts, pixels. */
export const SECTION = { left: 40, top: 22, stock: 76, break: 34, room: 132, least: 16 } as const
/** Between the drawing and its labels, where the leaders are, pixels. */
const LEADERS = 26

/** How wide the drawing is, and where its labels begin, in a pane of some width: both grow with it; pixels. */
export function sectionWidths(pane: number): { right: number; labels: number } {
  const labels = Math.min(220, Math.max(150, 0.4 * pane))
  const wide = Math.min(360, Math.max(96, pane - SECTION.left - LEADERS - labels))
  return { right: Math.round(SECTION.left + wide), labels: Math.round(SECTION.left + wide + LEADERS) }
}
/** Places along A–A that are drawn. */
export const PLACES = 64
/** Metres that a layer without a stated thickness is taken to have. */
export const ASSUMED = 4e-5

const micro = (m: number) => `${+(m * 1e6).toPrecision(3)}`

/** Reads what the drawing needs of each layer. */
export function drawnLayers(document: Element, layers: readonly Layer[]): DrawnLayer[] {
  return layers.map(l => {
    const e = childNamed(document, l.surface)
    const value = (n: string) => e && inputOf(e, n)?.attributes.value
    const mix =
      l.kind === 'cut' || l.kind === 'deposit'
        ? inputOf(childNamed(document, l.node)!, 'mix')?.attributes
        : undefined
    const metal = e?.tag === 'wl_metal' || Number(value('base_metalness') ?? 0) > 0.5
    const clear = l.kind === 'coat' || Number(value('transmission_weight') ?? 0) > 0.5
    const rough = value('coat_roughness') ?? value('specular_roughness') ?? value('roughness')
    const detail =
      l.kind === 'cut'
        ? `to ${layers.find(x => x.node === l.bare)?.title ?? l.bare}`
        : [
            l.thickness !== undefined
              ? `${micro(l.thickness)} µm`
              : e?.tag === 'wl_metal'
                ? 'n,k measured'
                : undefined,
            rough !== undefined ? `rough ${+Number(rough).toPrecision(2)}` : undefined,
          ]
            .filter(Boolean)
            .join(' · ')
    return {
      ...l,
      tint: surfaceTint(document, l.surface),
      hatch: metal ? 'metal' : clear ? 'glass' : /primer|dust|powder/i.test(l.title) ? 'powder' : 'polymer',
      detail,
      ...(mix?.nodename !== undefined
        ? { mask: mix.nodename }
        : mix?.value !== undefined
          ? { share: Math.min(1, Math.max(0, Number(mix.value))) }
          : {}),
    }
  })
}

/** Mask of a layer at place i of {@link PLACES}: sampled, constant, or `fallback` where it is not known. */
export function shareAt(
  layer: DrawnLayer,
  masks: ReadonlyMap<string, Float64Array>,
  i: number,
  fallback: number,
): number {
  const v = layer.mask !== undefined ? masks.get(layer.mask) : undefined
  return v?.length ? v[Math.min(v.length - 1, Math.floor((i / PLACES) * v.length))]! : (layer.share ?? fallback)
}

/** Mean of a layer's mask along the line. */
export function meanShare(layer: DrawnLayer, masks: ReadonlyMap<string, Float64Array>, fallback: number): number {
  let sum = 0
  for (let i = 0; i <= PLACES; i++) sum += shareAt(layer, masks, i, fallback)
  return sum / (PLACES + 1)
}

/**
 * Draws the layers as they lie along the line. Each follows what it lands on; a cut takes away what lies between
 * it and what it lays bare.
 * @param right where the drawing ends, pixels
 * @param scale pixels a metre of depth; undefined fits the whole into the room. Thin layers are drawn thicker than
 * they are, so that each can be picked.
 */
export function drawSection(
  layers: readonly DrawnLayer[],
  masks: ReadonlyMap<string, Float64Array>,
  right: number,
  scale?: number,
): Section {
  const solid = layers.filter(l => l.kind === 'deposit' || l.kind === 'coat')
  const names = layers.map(l => l.node)
  const full = solid.reduce((s, l) => s + (l.thickness ?? ASSUMED), 0)
  const perMetre = scale ?? (full > 0 ? SECTION.room / full : 0)
  const heights = solid.map(l => Math.max(SECTION.least, (l.thickness ?? ASSUMED) * perMetre))
  const ground = SECTION.top + 30 + heights.reduce((a, b) => a + b, 0)
  const level = new Float64Array(PLACES + 1).fill(ground)
  let depth = 0
  const bands = solid.map((layer, k): Band => {
    const at = layers.indexOf(layer)
    const cuts = layers.filter(
      (c, j) => c.kind === 'cut' && !c.off && j > at && c.bare !== undefined && names.indexOf(c.bare) < at,
    )
    const base = level.slice()
    const from = depth
    let kept = 0
    for (let i = 0; i <= PLACES; i++) {
      let share = layer.off ? 0 : layer.kind === 'deposit' ? shareAt(layer, masks, i, 1) : 1
      for (const c of cuts) share *= 1 - shareAt(c, masks, i, 0)
      kept += share / (PLACES + 1)
      level[i] = base[i]! - heights[k]! * share
    }
    depth += layer.off ? 0 : (layer.thickness ?? ASSUMED)
    return {
      layer,
      path: `M ${points(level, right, false)} L ${points(base, right, true)} Z`,
      top: base[0]! - heights[k]!,
      middle: base[0]! - heights[k]! / 2,
      from,
      to: depth,
      kept,
    }
  })
  return { bands, ground, bottom: ground + SECTION.stock, scale: perMetre }
}

function points(level: Float64Array, right: number, back: boolean): string {
  let out = ''
  for (let n = 0; n <= PLACES; n++) {
    const i = back ? PLACES - n : n
    out += `${(SECTION.left + ((right - SECTION.left) * i) / PLACES).toFixed(1)},${level[i]!.toFixed(1)} `
  }
  return out
}

/** Teeth of the break line of the stock, and how far they reach and are apart, pixels. */
const TEETH = 6
const TOOTH = 5
const GAP = 9
/** Points of the break line of the stock. @param right where the drawing ends @param y its height, pixels */
export function breakLine(right: number, y: number): string {
  const at = (i: number, from: number) =>
    `${SECTION.left + ((right - SECTION.left) * i) / TEETH},${from + (i % 2 ? -TOOTH : TOOTH)}`
  const teeth = Array.from({ length: TEETH + 1 }, (_, i) => i)
  return [...teeth.map(i => at(i, y)), ...teeth.reverse().map(i => at(i, y + GAP))].join(' ')
}

/** Distance between the tops of two labels at least, pixels. */
const LABEL = 37

/**
 * Where the labels stand, in the layers' order from the top: beside their bands, a cut at the height from which it
 * goes down, kept apart.
 */
export function placeLabels(
  layers: readonly DrawnLayer[],
  section: Section,
): { layer: DrawnLayer; y: number; at: number; kept: number }[] {
  let next = 8
  let surface = section.bands.at(-1)?.top ?? section.ground
  return [...layers].reverse().map(layer => {
    const band = section.bands.find(b => b.layer === layer)
    const y = band?.middle ?? (layer.kind === 'stock' ? section.ground + 30 : surface - 4)
    if (band) surface = band.top
    const at = Math.round(Math.max(next, y - (layer.kind === 'cut' ? 26 : 10)))
    next = at + LABEL
    return { layer, y, at, kept: band?.kept ?? 1 }
  })
}

/** What a label dropped at height `y` would lie on: the spine node of the label under it. */
export function dropTarget(labels: readonly { layer: DrawnLayer; at: number }[], y: number): string | undefined {
  return (labels.find(l => l.at + LABEL / 2 > y) ?? labels.at(-1))?.layer.node
}
