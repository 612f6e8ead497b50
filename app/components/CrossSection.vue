<script setup lang="ts">
import { childNamed, inputOf } from '../../core/network/document'
import { insertCoat, insertCut, insertDeposit, removeLayer, setLayerOff, type Layer } from '../../core/network/layers'
import { surfaceTint } from '../renderer/tint'

const props = defineProps<{ rays: Float64Array | null }>()
const bench = useBench(), stage = useStage()

const LEFT = 40, RIGHT = 168, TOP = 22, STOCK = 76, BREAK = 34
/** Masks along A–A by node that gives them: real values from the real network and model. */
const masks = shallowRef<{ of: Map<string, Float64Array>, width: number }>({ of: new Map(), width: 0 })
const maskOf = (l: Layer) => { const e = bench.document && childNamed(bench.document, l.node); return e && (l.kind === 'cut' || l.kind === 'deposit') ? inputOf(e, 'mix')?.attributes : undefined }

let asked = 0
async function ask(): Promise<void> {
  const s = stage.session, d = bench.document, part = stage.geometry?.partNames.indexOf(bench.part ?? '') ?? -1
  if (!s || !d || !props.rays || part < 0) return
  const nodes = [...new Set(bench.layers.map(l => maskOf(l)?.nodename).filter(n => n !== undefined))]
  const mine = ++asked
  const answer = await s.profile(nodes.map((n) => { const program = stage.program(d, undefined, n); return { program, textures: stage.textures(program) } }), props.rays, part)
  if (mine !== asked) return
  const p = answer.positions, hits: number[] = []
  for (let i = 0; i < p.length; i += 3) if (Number.isFinite(p[i]!)) hits.push(i)
  const a = hits[0], b = hits.at(-1)
  const width = a !== undefined && b !== undefined ? Math.hypot(p[a]! - p[b]!, p[a + 1]! - p[b + 1]!, p[a + 2]! - p[b + 2]!) : 0
  masks.value = { width, of: new Map(nodes.map((n, k) => [n, Float64Array.from(hits, i => Math.min(1, Math.max(0, answer.values[k]![i / 3]!)))])) }
}
let timer: ReturnType<typeof setTimeout> | undefined
watch([() => props.rays, () => bench.document, () => bench.part, () => stage.geometry, () => stage.drawn?.epoch], () => { clearTimeout(timer); timer = setTimeout(() => void ask(), 160) }, { immediate: true })

const N = 64
/** Masks of the layers at N + 1 places; undefined where none is known. */
const shares = computed(() => new Map(bench.layers.map((l) => {
  const a = maskOf(l), v = a?.nodename !== undefined ? masks.value.of.get(a.nodename) : undefined
  if (v?.length) return [l.node, Float64Array.from({ length: N + 1 }, (_, i) => v[Math.min(v.length - 1, Math.floor(i / N * v.length))]!)]
  return [l.node, a?.value !== undefined ? new Float64Array(N + 1).fill(Math.min(1, Math.max(0, Number(a.value)))) : undefined]
})))
/** Share of a layer's mask at place i of N. */
const maskAt = (l: Layer, i: number, fallback: number): number => shares.value.get(l.node)?.[i] ?? fallback

/** Deposits and coats from the bottom up, with what is left of them along the line. */
const drawing = computed(() => {
  const all = bench.layers, solid = all.filter(l => l.kind === 'deposit' || l.kind === 'coat')
  const full = solid.reduce((s, l) => s + (l.thickness ?? 4e-5), 0), room = 132
  const scale = full > 0 ? room / full : 0
  const heights = solid.map(l => Math.max(16, (l.thickness ?? 4e-5) * scale))
  const fit = Math.min(1, (room + 30) / Math.max(1, heights.reduce((a, b) => a + b, 0)))
  const ground = TOP + 30 + Math.min(room + 30, heights.reduce((a, b) => a + b, 0) * fit)
  const level = new Float64Array(N + 1).fill(ground)
  const names = all.map(l => l.node)
  let depth = 0
  const bands = solid.map((l, k) => {
    const at = all.indexOf(l), cuts = all.filter((c, j) => c.kind === 'cut' && !c.off && j > at && c.bare !== undefined && names.indexOf(c.bare) < at)
    const base = level.slice()
    let kept = 0
    for (let i = 0; i <= N; i++) {
      let share = l.off ? 0 : l.kind === 'deposit' ? maskAt(l, i, 1) : 1
      for (const c of cuts) share *= 1 - maskAt(c, i, 0)
      kept += share / (N + 1)
      level[i] = base[i]! - heights[k]! * fit * share
    }
    const from = depth
    depth += l.off ? 0 : l.thickness ?? 4e-5
    const x = (i: number) => LEFT + (RIGHT - LEFT) * i / N
    const line = (a: Float64Array, back: boolean) => Array.from({ length: N + 1 }, (_, i) => { const j = back ? N - i : i; return `${x(j).toFixed(1)},${a[j]!.toFixed(1)}` }).join(' ')
    return { layer: l, d: `M ${line(level, false)} L ${line(base, true)} Z`, middle: base[0]! - heights[k]! * fit / 2, top: base[0]! - heights[k]! * fit, from, to: depth, kept, cuts }
  })
  return { bands, ground, bottom: ground + STOCK, magnify: scale * (masks.value.width > 0 ? masks.value.width / (RIGHT - LEFT) : 1 / 3780) }
})
const stock = computed(() => bench.layers.find(l => l.kind === 'stock'))

type Hatch = 'metal' | 'glass' | 'polymer' | 'powder'
function hatchOf(l: Layer): Hatch {
  const e = bench.document ? childNamed(bench.document, l.surface) : undefined
  if (e?.tag === 'wl_metal' || Number(e && inputOf(e, 'base_metalness')?.attributes.value || 0) > 0.5) return 'metal'
  if (l.kind === 'coat' || Number(e && inputOf(e, 'transmission_weight')?.attributes.value || 0) > 0.5) return 'glass'
  return /primer|dust|powder/i.test(l.title) ? 'powder' : 'polymer'
}
const tint = (l: Layer) => bench.document ? surfaceTint(bench.document, l.surface) : '#808080'

/** Labels at the right, top to bottom, kept apart. */
const labels = computed(() => {
  const rows = [...drawing.value.bands.map(b => ({ layer: b.layer, y: b.middle, kept: b.kept, cuts: b.cuts })).reverse()]
  if (stock.value) rows.push({ layer: stock.value, y: drawing.value.ground + 30, kept: 1, cuts: [] })
  const cuts = bench.layers.filter(l => l.kind === 'cut').reverse().map(l => ({ layer: l, y: TOP + 8, kept: 1, cuts: [] as Layer[] }))
  const all = [...cuts, ...rows]
  let next = 8
  return all.map((r) => { const y = Math.max(next, r.y - 10); next = y + 37; return { ...r, at: y } })
})
const height = computed(() => Math.max(drawing.value.bottom + 8, (labels.value.at(-1)?.at ?? 0) + 40))
const micro = (m: number) => `${+(m * 1e6).toPrecision(3)}`
const percent = (x: number) => `${Math.round(x * 100)} %`

function detail(l: Layer, kept: number): string {
  const e = bench.document ? childNamed(bench.document, l.surface) : undefined, value = (n: string) => e && inputOf(e, n)?.attributes.value
  if (l.kind === 'cut') return `to ${bench.layers.find(x => x.node === l.bare)?.title ?? l.bare}, ${percent(mean(l))} here`
  const rough = value('coat_roughness') ?? value('specular_roughness') ?? value('roughness')
  return [l.thickness !== undefined ? `${micro(l.thickness)} µm` : e?.tag === 'wl_metal' ? 'n,k measured' : undefined, rough !== undefined ? `rough ${+Number(rough).toPrecision(2)}` : undefined, kept < 0.995 ? `${percent(kept)} left here` : undefined].filter(Boolean).join(' · ')
}
const mean = (l: Layer) => { let s = 0; for (let i = 0; i <= N; i++) s += maskAt(l, i, 0) / (N + 1); return s }

const select = (l: Layer) => { bench.layer = l.node; bench.node = null }
const toggle = (l: Layer) => bench.edit(`${l.title} ${l.off ? 'on' : 'off'}`, d => setLayerOff(d, l.node, !l.off))
const remove = (l: Layer) => { if (bench.edit(`Take out ${l.title}`, d => removeLayer(d, l.node))) bench.layer = bench.layers.at(-1)?.node ?? null }

/** Spine node above which an insertion is being chosen. */
const inserting = ref<{ over: string, y: number } | null>(null)
const places = computed(() => {
  const tops = [...drawing.value.bands.map(b => ({ over: b.layer.node, y: b.top, depth: b.to }))]
  if (stock.value) tops.unshift({ over: stock.value.node, y: drawing.value.ground, depth: 0 })
  // above a cut: what is deposited later covers the cut too
  const last = bench.layers.at(-1)
  if (last && last.kind === 'cut' && tops.length) tops[tops.length - 1]!.over = last.node
  return tops
})
function insert(what: 'coat' | 'deposit' | 'cut'): void {
  const over = inserting.value?.over
  inserting.value = null
  if (over === undefined) return
  let name = ''
  const bare = stock.value?.node ?? over
  const ok = bench.edit(what === 'coat' ? 'Insert a clear coat' : what === 'deposit' ? 'Insert a deposit' : 'Insert a cut', (d) => {
    const r = what === 'coat' ? insertCoat(d, over) : what === 'deposit' ? insertDeposit(d, over) : insertCut(d, over, bare)
    name = r.name
    return r.document
  })
  if (ok) { bench.layer = name; bench.node = null }
}
defineExpose({ toggleSelected: () => { if (bench.selectedLayer && bench.selectedLayer.kind !== 'stock') toggle(bench.selectedLayer) } })
</script>

<template>
  <section class="pane" aria-label="Cross-section">
    <div class="head"><b>Cross-section</b><span>A–A<template v-if="masks.width">, {{ (masks.width * 1000).toPrecision(2) }} mm wide · depth × {{ Math.max(1, Math.round(drawing.magnify)) }}</template></span></div>
    <div class="scroll rel">
      <p v-if="!bench.layers.length" class="small pad">This material has no layers that can be drawn.</p>
      <svg v-else :viewBox="`0 0 320 ${height}`" :style="{ height: height + 'px' }" class="draw">
        <defs>
          <pattern id="h-metal" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="9" /></pattern>
          <pattern id="h-glass" width="16" height="16" patternUnits="userSpaceOnUse"><path d="M2 7 l5 -5 M4 9 l5 -5 M10 15 l5 -5" /></pattern>
          <pattern id="h-polymer" width="12" height="10" patternUnits="userSpaceOnUse" patternTransform="rotate(35)"><path d="M0 2 h6 M6 7 h6" /></pattern>
          <pattern id="h-powder" width="7" height="7" patternUnits="userSpaceOnUse"><circle cx="2" cy="2" r=".9" /><circle cx="5.5" cy="5.5" r=".9" /></pattern>
        </defs>
        <rect :x="LEFT" :y="8" :width="RIGHT - LEFT" :height="drawing.ground - 8" class="air" /><text :x="LEFT + 6" :y="21" class="note">air</text>
        <g v-if="stock" @click="select(stock)">
          <rect :x="LEFT" :y="drawing.ground" :width="RIGHT - LEFT" :height="STOCK" :fill="tint(stock)" /><rect :x="LEFT + 26" :y="drawing.ground" :width="RIGHT - LEFT - 26" :height="STOCK" :fill="`url(#h-${hatchOf(stock)})`" />
          <polygon class="break" :points="[0, 1, 2, 3, 4, 5, 6].map(i => `${LEFT + (RIGHT - LEFT) * i / 6},${drawing.ground + STOCK - BREAK + (i % 2 ? -5 : 5)}`).concat([6, 5, 4, 3, 2, 1, 0].map(i => `${LEFT + (RIGHT - LEFT) * i / 6},${drawing.ground + STOCK - BREAK + 9 + (i % 2 ? -5 : 5)}`)).join(' ')" />
          <rect :x="LEFT" :y="drawing.ground" :width="RIGHT - LEFT" :height="STOCK" class="edge" :class="{ at: stock.node === bench.layer }" />
        </g>
        <g v-for="b in drawing.bands" :key="b.layer.node" :opacity="b.layer.off ? 0.25 : 1" @click="select(b.layer)">
          <path :d="b.d" :fill="tint(b.layer)" /><path :d="b.d" :fill="`url(#h-${hatchOf(b.layer)})`" :style="{ clipPath: `inset(0 0 0 0)` }" /><rect v-if="b.kept > 0.3" :x="LEFT + 1" :y="b.middle - 5" width="22" height="10" :fill="tint(b.layer)" />
          <path :d="b.d" class="edge" :class="{ at: b.layer.node === bench.layer }" />
        </g>
        <g v-for="p in places" :key="p.over + p.y" class="plus">
          <text :x="LEFT - 4" :y="p.y + 10" text-anchor="end" class="depth">{{ micro(p.depth) }}{{ p.depth === 0 ? ' µm' : '' }}</text>
          <g role="button" tabindex="0" :aria-label="`Insert above ${micro(p.depth)} µm`" :data-insert="p.over" @click="inserting = { over: p.over, y: p.y }" @keydown.enter="inserting = { over: p.over, y: p.y }">
            <rect x="0" :y="p.y - 17" width="24" height="24" fill="transparent" /><circle cx="12" :cy="p.y - 5" r="7" /><path :d="`M8 ${p.y - 5} h8 M12 ${p.y - 9} v8`" />
          </g>
        </g>
        <g v-for="l in labels" :key="l.layer.node">
          <polyline v-if="l.layer.kind !== 'cut'" class="leader" :points="`${RIGHT - 10},${l.y} ${RIGHT + 8},${l.y} ${RIGHT + 16},${l.at + 11} ${RIGHT + 24},${l.at + 11}`" />
          <foreignObject :x="RIGHT + 26" :y="l.at" :width="320 - RIGHT - 28" height="38">
            <div class="label" :class="{ at: l.layer.node === bench.layer, off: l.layer.off }">
              <button class="name" :title="l.layer.title" :data-layer="l.layer.node" @click="select(l.layer)">{{ l.layer.kind === 'cut' ? '⌵ ' : '' }}{{ l.layer.title }}</button>
              <button v-if="l.layer.kind !== 'stock'" class="q" :aria-label="`${l.layer.off ? 'Switch on' : 'Switch off'} ${l.layer.title}`" :aria-pressed="!l.layer.off" @click="toggle(l.layer)"><UIcon :name="l.layer.off ? 'i-lucide-eye-off' : 'i-lucide-eye'" /></button>
              <div class="small" :title="detail(l.layer, l.kept)">{{ detail(l.layer, l.kept) }}</div>
            </div>
          </foreignObject>
        </g>
      </svg>
      <div v-if="inserting" class="u-menu" role="menu" :style="{ left: '30px', top: inserting.y + 4 + 'px' }">
        <button role="menuitem" @click="insert('coat')">Clear coat <span class="small">deposit</span></button>
        <button role="menuitem" @click="insert('deposit')">Paint <span class="small">deposit</span></button>
        <button role="menuitem" :disabled="inserting.over === stock?.node" @click="insert('cut')">Edge wear <span class="small">cut to the stock</span></button>
        <button role="menuitem" @click="inserting = null">Cancel</button>
      </div>
    </div>
    <div class="foot">
      <button class="b" :disabled="!bench.selectedLayer || bench.selectedLayer.kind === 'stock'" title="Take the selected layer out (Delete)" @click="bench.selectedLayer && remove(bench.selectedLayer)">Take out</button>
      <button class="b" :disabled="!bench.selectedLayer || bench.selectedLayer.kind === 'stock'" title="Switch the selected layer off or on (H)" @click="bench.selectedLayer && toggle(bench.selectedLayer)">{{ bench.selectedLayer?.off ? 'On' : 'Off' }}</button>
      <span class="legend" aria-label="Legend of hatches"><svg v-for="h in ['metal', 'polymer', 'glass', 'powder']" :key="h" :width="h.length * 6 + 19" height="16"><rect width="14" height="14" y="1" :fill="`url(#h-${h})`" class="edge" /><text x="17" y="12">{{ h }}</text></svg></span>
    </div>
  </section>
</template>

<style scoped>
.rel { position: relative; }
.draw { width: 100%; max-width: 420px; display: block; }
.air { fill: var(--raised); stroke: var(--ink); }
.edge { fill: none; stroke: var(--ink); stroke-width: 1; }
.legend .edge { fill-opacity: 1; }
.legend rect.edge { fill: revert-layer; }
.edge.at { stroke: var(--accent); stroke-width: 2.4; }
pattern line, pattern path { stroke: var(--ink); stroke-width: 1; fill: none; }
pattern circle { fill: var(--ink); }
.break { fill: var(--raised); stroke: var(--ink); }
.note, .depth { font-size: 12px; }
.plus circle { fill: none; stroke: var(--ink); }
.plus path { stroke: var(--ink); }
.plus [role=button] { cursor: pointer; }
.plus [role=button]:hover circle { fill: var(--raised); }
.leader { fill: none; stroke: var(--ink); }
.label { display: grid; grid-template-columns: 1fr 24px; line-height: 1.15; }
.label .name { text-align: left; font-weight: 600; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-height: 22px; }
.label.at .name { color: var(--accent); }
.label.off .name { text-decoration: line-through; }
.label .small { grid-column: 1 / 3; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.foot { display: flex; flex-wrap: wrap; align-items: center; gap: 4px; padding: 4px 9px; border-top: 1px solid var(--rule); flex: none; }
.legend { margin-left: auto; display: flex; gap: 3px; font-size: 11px; }
.pad { padding: 4px 9px; margin: 0; }
</style>
