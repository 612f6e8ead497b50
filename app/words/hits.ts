import { nameOf, type Element } from '../../core/network/document'
import { allNodes, isGroup } from '../../core/network/groups'
import { definitions } from '../../core/nodes/definitions'
import { fittingInput } from './fits'
import { SYNONYMS } from './synonyms'

/** Something that find-or-add gives. */
export interface Hit {
  kind: 'add' | 'node' | 'part' | 'material' | 'action'
  /** Unlike that of any other. */
  id: string
  name: string
  title: string
  detail: string
}
export interface HitGroup {
  title: string
  hits: Hit[]
}
/** What is searched. */
interface Searched {
  document: Element | null | undefined
  part: string | null
  scene: { parts: readonly { name: string }[] } | null | undefined
  state: { materials: Readonly<Record<string, unknown>> } | null
  /** A wire that waits for a node: then only nodes that take it are found. */
  loose?: { type: string } | null
}

/** One entry a category; what every document has once is not added. */
const addable = [...new Map(definitions.filter(d => d.node !== 'surfacematerial').map(d => [d.node, d])).values()]
const titleOf = (category: string) => category.replace(/^wl_/, '')
/** Words of a name: `worleynoise3d` has one, `generalized_schlick_bsdf` three. */
const wordsOf = (title: string) => title.toLowerCase().split(/[_\s]+/)

/** How well a name and its synonyms fit what was typed, smaller is better; undefined where they do not. */
function fit(title: string, also: readonly string[], words: readonly string[]): number | undefined {
  const t = words.join(' ')
  const name = title.toLowerCase()
  const starts = (all: readonly string[]) => words.every(w => all.some(x => x.startsWith(w)))
  if (name === t) return 0
  if (name.startsWith(t)) return 1
  if (starts(wordsOf(title))) return 2
  if (starts([...wordsOf(title), ...also])) return 3
  return words.every(w => name.includes(w)) ? 4 : undefined
}
/** Nodes to add that a text finds, the best first. */
function addedBy(words: readonly string[], hit: (category: string, detail: string) => Hit): Hit[] {
  return addable
    .flatMap(d => {
      const said = SYNONYMS.filter(s => s.nodes.includes(d.node))
      const how = fit(
        titleOf(d.node),
        said.flatMap(s => s.words.split(' ')),
        words,
      )
      const nearest = said.find(s => s.missing !== undefined && words.some(w => s.words.split(' ').includes(w)))
      const order = nearest ? nearest.nodes.indexOf(d.node) / 100 : 0
      return how === undefined
        ? []
        : [{ how: how + order, hit: hit(d.node, nearest ? `nearest: ${nearest.missing}` : `add, ${d.nodegroup}`) }]
    })
    .sort((a, b) => a.how - b.how || a.hit.title.length - b.hit.title.length)
    .map(x => x.hit)
}

/**
 * What a text finds, in groups, the best first: nodes to add and those that are there only once something is typed.
 * @param actions of the bench, with their keys
 */
export function hitsFor(
  text: string,
  searched: Searched,
  actions: readonly { name: string; title: string; key: string }[],
): HitGroup[] {
  const t = text.trim().toLowerCase()
  const words = t.split(/\s+/).filter(Boolean)
  const match = (s: string) => words.every(w => s.toLowerCase().includes(w))
  const hit = (kind: Hit['kind'], name: string, title: string, detail: string): Hit => ({
    kind,
    id: `${kind}:${name}`,
    name,
    title,
    detail,
  })
  const { document: d, part, loose } = searched
  const added =
    d && (words.length || loose) ? addedBy(words, (c, detail) => hit('add', c, titleOf(c), detail)) : []
  if (loose) {
    const fitting = added.filter(h => fittingInput(h.name, loose.type) !== undefined)
    return fitting.length ? [{ title: `Takes what is given (${loose.type})`, hits: fitting }] : []
  }
  const groups = (d?.children ?? []).filter(isGroup).map(node => ({ path: nameOf(node), node }))
  const nodes = [...groups, ...(d ? allNodes(d) : [])]
    .filter(({ path, node }) => match(`${path} ${node.tag} node`))
    .map(({ path, node }) => hit('node', path, path, isGroup(node) ? 'group' : `node, ${node.tag}`))
  const parts = (searched.scene?.parts ?? [])
    .filter(p => match(`${p.name} part`))
    .map(p => hit('part', p.name, p.name, 'part'))
  const materials =
    part === null
      ? []
      : Object.keys(searched.state?.materials ?? {})
          .filter(m => match(`${m} material`))
          .map(m => hit('material', m, m, `material, onto ${part}`))
  const doing = actions.filter(a => match(`${a.title} action`)).map(a => hit('action', a.name, a.title, a.key))
  return [
    { title: 'Add to the network', hits: added },
    { title: 'Nodes', hits: t ? nodes : [] },
    { title: 'Parts', hits: parts },
    { title: 'Materials', hits: materials },
    { title: 'Actions', hits: doing },
  ].filter(g => g.hits.length)
}
