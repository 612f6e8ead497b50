import { addDefinition } from './definitions'
import type { NodeDefinition } from './definition'
import type { NodeEntry } from './emit'
import { entries as adjust } from './adjust'
import { entries as blend } from './blend'
import { entries as channel } from './channel'
import { entries as displacement } from './displacement'
import { entries as geometry } from './geometry'
import { entries as math } from './math'
import { entries as normalmap } from './normalmap'
import { entries as points } from './points'
import { entries as procedural } from './procedural'
import { entries as relief } from './relief'
import { entries as texture } from './texture'

/** Entry of every node that gives numbers, by category. */
const entries = new Map<string, NodeEntry>(
  [adjust, blend, channel, displacement, geometry, math, normalmap, points, procedural, relief, texture].flatMap(
    family => Object.entries(family),
  ),
)

/** Entry of a category; undefined where it is not computed. */
export const nodeEntry = (category: string): NodeEntry | undefined => entries.get(category)

/** Adds a node from outside: its entry, and a definition for each of its signatures. */
export function registerNode(definitions: readonly NodeDefinition[], entry: NodeEntry): void {
  for (const d of definitions) {
    entries.set(d.node, entry)
    addDefinition(d)
  }
}
