<script setup lang="ts">
import { table } from '../../core/nodes/table'
import { nameOf } from '../../core/network/document'
import { allNodes, isGroup } from '../../core/network/groups'
import { definitions, outputTypeOf } from '../../core/nodes/definitions'

/** Finds parts, materials, nodes and actions; adds nodes of any kind. */
const bench = useBench()
const text = ref('')
const open = ref(false)
const at = ref(0)
const field = ref<HTMLInputElement>()
const actions = inject<{
  add(category: string, type: string): void
  run(name: string): void
  names: { name: string; title: string; key: string }[]
}>('bench-actions')!
defineExpose({ focus: () => field.value?.focus() })

interface Hit {
  id: string
  title: string
  detail: string
  run(): void
}
/** One entry a category: the type that the standard lists first, and the plainest. */
const addable = [
  ...new Map(
    definitions
      .filter(d => !['pbr', 'material'].includes(d.nodegroup) || d.node.startsWith('wl_'))
      .map(d => [d.node, d]),
  ).keys(),
]
const typesOf = (category: string) => [...new Set(definitions.filter(d => d.node === category).map(outputTypeOf))]
/** Further words that artists look a node up by. */
const ALSO = table<string>({
  range: 'levels',
  bump: 'relief height',
  heighttonormal: 'relief bump',
  wl_curvature: 'edge wear',
  geomcolor: 'vertex colour',
  wl_ramp: 'gradient stops',
  worleynoise3d: 'cells',
  worleynoise2d: 'cells',
})
const ORDER = ['float', 'color3', 'vector3', 'vector2']
const hits = computed<Hit[]>(() => {
  if (!open.value) return []
  const t = text.value.trim().toLowerCase()
  const words = t.split(/\s+/).filter(Boolean)
  const match = (s: string) => words.every(w => s.toLowerCase().includes(w))
  const out: Hit[] = []
  if (bench.document)
    for (const category of addable) {
      const types = typesOf(category)
        .sort((a, b) => ((ORDER.indexOf(a) + 9) % 9) - ((ORDER.indexOf(b) + 9) % 9))
        .slice(0, 3)
      for (const type of types)
        if (match(`${category} ${type} ${ALSO[category] ?? ''} add`))
          out.push({
            id: `add:${category}:${type}`,
            title: category.replace(/^wl_/, ''),
            detail: `add node, ${type}`,
            run: () => actions.add(category, type),
          })
    }
  // plain noise first: a match at the start, then the shorter name
  out.sort((a, b) => +b.title.startsWith(t) - +a.title.startsWith(t) || a.title.length - b.title.length)
  const parts = (bench.scene?.parts ?? [])
    .filter(p => match(`${p.name} part`))
    .map(p => ({ id: `part:${p.name}`, title: p.name, detail: 'part', run: () => bench.selectPart(p.name) }))
  const groups = (bench.document?.children ?? []).filter(isGroup).map(node => ({ path: nameOf(node), node }))
  const nodes = [...groups, ...(bench.document ? allNodes(bench.document) : [])]
    .filter(({ path }) => match(`${path} node`))
    .map(({ path, node }) => ({
      id: `node:${path}`,
      title: path,
      detail: isGroup(node) ? 'group' : `node, ${node.tag}`,
      run: () => {
        bench.node = path
      },
    }))
  const materials =
    bench.part === null
      ? []
      : Object.keys(bench.state?.materials ?? {})
          .filter(m => match(`${m} material`))
          .map(m => ({
            id: `material:${m}`,
            title: m,
            detail: `material, onto ${bench.part}`,
            run: () => bench.assign(bench.part!, m),
          }))
  const doing = actions.names
    .filter(a => match(`${a.title} action`))
    .map(a => ({ id: `do:${a.name}`, title: a.title, detail: a.key, run: () => actions.run(a.name) }))
  return (t ? [...out, ...nodes, ...parts, ...materials, ...doing] : [...parts, ...materials, ...doing]).slice(
    0,
    40,
  )
})
watch(text, () => {
  at.value = 0
})
function choose(h: Hit | undefined): void {
  if (!h) return
  open.value = false
  text.value = ''
  field.value?.blur()
  h.run()
}
function key(e: KeyboardEvent): void {
  if (e.key === 'ArrowDown') {
    at.value = Math.min(hits.value.length - 1, at.value + 1)
    e.preventDefault()
  } else if (e.key === 'ArrowUp') {
    at.value = Math.max(0, at.value - 1)
    e.preventDefault()
  } else if (e.key === 'Enter') choose(hits.value[at.value])
  else if (e.key === 'Escape') {
    open.value = false
    field.value?.blur()
  }
}
</script>

<template>
  <div class="find">
    <input
      ref="field"
      v-model="text"
      class="b"
      type="text"
      placeholder="Find or add …   /"
      aria-label="Find or add"
      role="combobox"
      :aria-expanded="open"
      aria-controls="find-list"
      autocomplete="off"
      spellcheck="false"
      @focus="open = true"
      @blur="open = false"
      @keydown="key"
    />
    <div v-if="open && hits.length" id="find-list" class="hits" role="listbox">
      <button
        v-for="(h, i) in hits"
        :key="h.id"
        role="option"
        :aria-selected="i === at"
        :class="{ at: i === at }"
        :data-hit="h.id"
        @pointerdown.prevent="choose(h)"
      >
        <span>{{ h.title }}</span>
        <span class="small">{{ h.detail }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.find {
  position: relative;
  width: 200px;
  flex: none;
}
.find input {
  width: 100%;
}
.hits {
  position: absolute;
  z-index: 30;
  left: 0;
  right: -60px;
  top: 27px;
  max-height: 60vh;
  overflow-y: auto;
  background: var(--raised);
  border: 1px solid var(--ink);
}
.hits button {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  width: 100%;
  padding: 4px 10px;
  min-height: 24px;
  text-align: left;
}
.hits button:hover,
.hits button.at {
  background: var(--accent);
  color: var(--on-accent);
}
.hits button:hover .small,
.hits button.at .small {
  color: var(--on-accent);
}
</style>
