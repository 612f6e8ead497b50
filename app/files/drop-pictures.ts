import { findElement, isDriven, isNode, nameOf } from '../../core/network/document'
import { definitionOf } from '../../core/network/edit'
import { isGroup } from '../../core/network/groups'
import type { InputDefinition } from '../../core/nodes/definition'
import { isValueType } from '../../core/nodes/types'
import { labelOf } from '../words/labels'
import { inputFor } from '../words/map-names'
import { useBench } from '../stores/bench'
import { replaceImage } from './replace-image'
import { wireImage } from './wire-image'

/** Why pictures fit nowhere on what they were dropped on, and what would take them. */
export class NoPlace extends Error {}

/**
 * Drives a surface by pictures, each the input that its name says; they lie by one placement.
 * @returns what was decided, a line each
 * @throws NoPlace where the surface has no input for one; FormatError where a file is no picture
 */
async function onSurface(
  files: readonly File[],
  node: string,
  inputs: readonly InputDefinition[],
): Promise<string[]> {
  const said: string[] = []
  let placement: string | undefined
  for (const file of files) {
    const input = inputs.find(i => i.name === inputFor(file.name, inputs))
    if (!input)
      throw new NoPlace(
        `${node} has no colour that a picture can drive: drop it on one of its rows, or on the network`,
      )
    const wired = await wireImage(file, node, input, placement)
    placement ??= wired?.placement
    if (wired) said.push(`${file.name} drives ${labelOf(input.name)}: ${wired.said}`)
  }
  return said
}

/**
 * Drops pictures on a node: a picture's node exchanges its own, a surface is driven by what their names say, any other
 * node by its first free input.
 * @returns what was decided, a line each
 * @throws NoPlace with what would take them
 */
export async function dropOnNode(files: readonly File[], path: string): Promise<string[]> {
  const { document } = useBench()
  const node = document ? findElement(document, path) : undefined
  if (!node || isGroup(node) || !isNode(node)) throw new NoPlace('Open the group, and drop it on a node in it')
  const inputs = definitionOf(node)?.inputs ?? []
  const file = inputs.find(i => i.type === 'filename')
  const first = files.at(0)
  if (file && first)
    return [`${first.name} is the picture of ${path}, ${await replaceImage(first, path, file.name)}`]
  if (node.attributes.type === 'surfaceshader' && node.tag !== 'mix') return onSurface(files, path, inputs)
  const wired = (i: InputDefinition) => node.children.some(c => isDriven(c) && nameOf(c) === i.name)
  const free = inputs.find(i => isValueType(i.type) && i.type !== 'integer' && i.type !== 'boolean' && !wired(i))
  if (!free || !first) throw new NoPlace(`${path} has no free input: drop it on the network beside it`)
  const done = await wireImage(first, path, free)
  return done ? [`${first.name} drives ${labelOf(free.name)} of ${path}: ${done.said}`] : []
}

/** The surface of the layer that pictures on a whole part go onto: the one at hand, else the uppermost. */
export function surfaceAtHand(): string | undefined {
  const bench = useBench()
  const at = bench.selectedLayer
  const solid = (l: { kind: string }) => l.kind === 'deposit' || l.kind === 'stock'
  return (at && solid(at) ? at : bench.layers.findLast(solid))?.surface
}
