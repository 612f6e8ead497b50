import type { Panel, Rig } from '../../core/scene/rig'
import { uniqueName } from '../../core/mesh/model'

/** What the light panel lists: a panel by its number, or a named group of them. */
export type PanelEntry = { kind: 'panel'; at: number } | { kind: 'group'; name: string; at: number[] }

/** Panels in their order; a group stands where its first one does. */
export function entriesOf(panels: readonly Panel[]): PanelEntry[] {
  const entries: PanelEntry[] = []
  const groups = new Map<string, number[]>()
  panels.forEach((p, at) => {
    const known = p.group === undefined ? undefined : groups.get(p.group)
    if (known) known.push(at)
    else if (p.group === undefined) entries.push({ kind: 'panel', at })
    else {
      const own = [at]
      groups.set(p.group, own)
      entries.push({ kind: 'group', name: p.group, at: own })
    }
  })
  return entries
}

/** Names of the groups of a rig. */
export const groupsOf = (panels: readonly Panel[]): string[] => [...new Set(panels.flatMap(p => p.group ?? []))]

/** The brightest channel of some panels. */
export const brightest = (panels: readonly Panel[]): number =>
  Math.max(0, ...panels.map(p => Math.max(...p.radiance)))

/** Changes the panels with these numbers. */
export const changePanels = (r: Rig, at: readonly number[], edit: (p: Panel) => Panel): Rig => {
  const chosen = new Set(at)
  return { ...r, panels: r.panels.map((p, i) => (chosen.has(i) ? edit(p) : p)) }
}

/** A panel with its light times a factor. */
export const dimmed = (p: Panel, by: number): Panel => ({
  ...p,
  radiance: p.radiance.map(x => +(x * by).toPrecision(9)) as Panel['radiance'],
})

/** Puts a panel into a group, or out of all for an empty name. */
export function grouped({ group: _, ...p }: Panel, name: string): Panel {
  const group = name.trim()
  return group ? { ...p, group } : p
}

/**
 * A panel repeated in rows along its own edges: the first stays where it is, its copies follow across and down, all in
 * one group.
 * @param across, down how many there are then; apart: from middle to middle, metres
 */
export function repeated(r: Rig, at: number, across: number, down: number, apart: number): Rig {
  const first = r.panels[at]!
  const name = first.group ?? uniqueName(first.name, new Set(groupsOf(r.panels)))
  const taken = new Set(r.panels.map(p => p.name))
  const along = (v: readonly number[]) => v.map(x => (x / (Math.hypot(...v) || 1)) * apart)
  const [u, v] = [along(first.u), along(first.v)]
  const copies = Array.from({ length: across * down - 1 }, (_, k) => {
    const [i, j] = [(k + 1) % across, Math.floor((k + 1) / across)]
    return {
      ...first,
      name: uniqueName(first.name, taken),
      group: name,
      centre: first.centre.map((c, n) => c + i * u[n]! + j * v[n]!) as Panel['centre'],
    }
  })
  const panels = r.panels.map((p, i) => (i === at ? { ...p, group: name } : p))
  return { ...r, panels: [...panels, ...copies] }
}
