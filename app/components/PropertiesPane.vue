<script setup lang="ts">
import { CALM } from '../input/calm'
import { canMend, mend } from '../../core/checks'
import type { Finding } from '../../core/checks/finding'
import { definitionOf } from '../../core/network/edit'
import { childNamed, findElement, inputOf, isDriven } from '../../core/network/document'
import { groupInputs, isGroup } from '../../core/network/groups'
import { placementOf } from '../../core/network/placement'
import type { InputDefinition } from '../../core/nodes/definition'
import { SHAPE_NODES } from '../../core/nodes/shape-nodes'
import { setMatter, setThickness } from '../../core/network/layers'
import { thicknessInput } from '../../core/network/thickness'
import { entitle, titleOf } from '../../core/network/names'
import { retype, typesOf } from '../../core/network/retype'
import { ONLY_WITH } from '../../core/surface/openpbr-inputs'
import { GROUPS } from '../words/labels'
import { useRowMenu } from '../menus/useRowMenu'

const bench = useBench()
const stage = useStage()
const goto = (name: string) => {
  bench.node = name
}

/** What the properties are of: the selected node, else the selected layer's surface. */
const subject = computed(() => bench.node ?? bench.selectedLayer?.surface ?? null)
const element = computed(() =>
  subject.value !== null && bench.document ? findElement(bench.document, subject.value) : undefined,
)
const tag = computed(() => element.value?.tag)
const definition = computed((): { inputs: InputDefinition[] } | undefined => {
  const e = element.value
  // a group's properties are what it takes from outside
  if (e && isGroup(e)) return { inputs: groupInputs(e) }
  return e && definitionOf(e)
})
const layer = computed(() =>
  bench.node === null || bench.node === bench.selectedLayer?.surface ? bench.selectedLayer : null,
)
const isSurface = computed(() => element.value?.attributes.type === 'surfaceshader' && element.value.tag !== 'mix')
/** Inputs that the editor of a ramp or a curve shows. */
const POINT_INPUT = /^(count|position\d|color\d|value\d)$/
/** Inputs that the fields of a placement show. */
const PLACED_INPUT = /^(scale|offset|rotate|operationorder)$/
const placed = computed(
  () => tag.value === 'place2d' && element.value !== undefined && placementOf(element.value) !== undefined,
)
const pointed = computed(() => tag.value === 'wl_ramp' || tag.value === 'wl_curve')
const groups = steady(() => {
  const d = definition.value
  if (!d) return []
  if (!isSurface.value)
    return [
      {
        title: 'Inputs',
        inputs: d.inputs
          .filter(i => !(pointed.value && POINT_INPUT.test(i.name)))
          .filter(i => !(placed.value && PLACED_INPUT.test(i.name)))
          // a layer's own rows show its mask or coverage
          .filter(i => !(layer.value && mixInput.value?.name === i.name))
          .filter(i => !['BSDF', 'EDF', 'VDF', 'surfaceshader', 'displacementshader'].includes(i.type)),
      },
    ]
  return GROUPS.map(g => ({
    title: g.title,
    inputs: g.inputs.flatMap(n => d.inputs.filter(i => i.name === n && relevant(i.name))),
  })).filter(g => g.inputs.length)
})
/**
 * Only what has an effect: absorption belongs to what lets light through, facing and edge colours to metals, a
 * film's thickness to a film.
 */
function relevant(name: string): boolean {
  const e = element.value
  const on = (input: string) => {
    const i = e && inputOf(e, input)
    return i !== undefined && (isDriven(i) || Number(i.attributes.value ?? 0) > 0)
  }
  if (e?.tag !== 'open_pbr_surface')
    return !((name === 'film_ior' && !on('film_thickness')) || (name === 'tangent' && !on('anisotropy')))
  if (
    Object.entries(ONLY_WITH).some(([master, names]) => (names as readonly string[]).includes(name) && !on(master))
  )
    return false
  const metal = inputOf(e, 'base_metalness')?.attributes.value === '1'
  // a coat inside the open surface is shown where a document has one; ours are layers of their own
  return !((name === 'coat_weight' && !on('coat_weight')) || (metal && ONLY_DIELECTRIC.has(name) && !on(name)))
}
/** What has no say over bare metal. */
const ONLY_DIELECTRIC = new Set([
  'transmission_weight',
  'subsurface_weight',
  'base_diffuse_roughness',
  'specular_ior',
  'geometry_thin_walled',
])
const cut = steady(() => {
  const l = layer.value
  if (!l || l.kind !== 'cut' || !bench.document) return null
  const mix = childNamed(bench.document, l.node)
  const mask = mix && inputOf(mix, 'mix')?.attributes.nodename
  let radius: string | undefined
  const seen = new Set<string>()
  const visit = (n: string) => {
    if (seen.has(n) || radius) return
    seen.add(n)
    const e = childNamed(bench.document!, n)
    if (e && SHAPE_NODES.has(e.tag)) radius = n
    for (const c of e?.children ?? []) if (c.attributes.nodename) visit(c.attributes.nodename)
  }
  if (mask) visit(mask)
  return { mask, radius, bare: bench.layers.find(x => x.node === l.bare)?.title ?? l.bare }
})
const matter = computed(() =>
  element.value?.tag === 'wl_metal'
    ? 'metal'
    : element.value?.tag === 'wl_glass'
      ? 'glass'
      : element.value && Number(inputOf(element.value, 'transmission_weight')?.attributes.value ?? 0) > 0.5
        ? 'glass'
        : 'paint',
)
const thickness = (m: number) => {
  const l = layer.value
  const all = bench.node === null ? bench.pickedLayers.filter(p => p.kind === l?.kind) : []
  if (l)
    bench.edit(
      all.length > 1 ? `Thickness of ${all.length} layers` : `Thickness of ${l.title}`,
      d => (all.length ? all : [l]).reduce((x, p) => setThickness(x, p, m), d),
      `${l.node}/thickness`,
    )
}
/** The input that a layer's thickness is: it can be driven like any other. */
const drivenThickness = steady(() => {
  const d = bench.document
  const l = layer.value
  const place = d && l ? thicknessInput(d, l) : undefined
  const input = place && definitionOf(findElement(d!, place.node)!)?.inputs.find(i => i.name === place.input)
  return input && { node: place.node, input }
})
const become = (m: string) => {
  const s = subject.value
  if (s !== null) bench.edit(`${layer.value?.title ?? s} becomes ${m}`, d => setMatter(d, s, m as 'metal'))
}
/** What the subject is called. */
const title = computed(
  () =>
    layer.value?.title ??
    (element.value && bench.document ? titleOf(bench.document, subject.value!) : 'Properties'),
)
const rename = (t: string) => {
  const s = subject.value
  if (s !== null) bench.edit(`Rename to ${t}`, d => entitle(d, s, t))
}
const faults = steady(() => (bench.faults[bench.materialKey ?? ''] ?? []).filter(f => f.where === subject.value))
const findings = computed(() =>
  bench.checks.filter(c => c.where === subject.value || c.where === layer.value?.node),
)
const MATTERS = [
  { value: 'paint', label: 'opaque' },
  { value: 'metal', label: 'bare metal' },
  { value: 'glass', label: 'glass' },
]
/** Types that the node can have. */
const types = steady(() => (tag.value !== undefined && !isSurface.value ? typesOf(tag.value) : []))
const becomeType = (type: string) => {
  const s = subject.value
  if (s !== null) bench.edit(`${s} becomes ${type}`, d => retype(d, s, type))
}
const menuOf = useRowMenu(() => subject.value)
const fix = (f: Finding): void => void bench.edit(f.fix, d => mend(d, f))
const radiusInput = computed(() =>
  cut.value?.radius && bench.document
    ? definitionOf(childNamed(bench.document, cut.value.radius)!)?.inputs.find(i => i.name === 'radius')
    : undefined,
)
const mixInput = computed(() =>
  layer.value?.kind === 'cut' || layer.value?.kind === 'deposit'
    ? definitionOf(childNamed(bench.document!, layer.value.node)!)?.inputs.find(i => i.name === 'mix')
    : undefined,
)
</script>

<template>
  <PaneMenu :of="menuOf">
    <section class="pane" aria-label="Properties">
      <div class="head">
        <b class="title">{{ title }}</b>
        <span
          >{{ bench.node !== null && !layer ? tag?.replace(/^wl_/, '') : (layer?.kind ?? '')
          }}<template v-if="faults.length">
            · {{ faults.length }} fault{{ faults.length > 1 ? 's' : '' }}</template
          >
          <template v-if="bench.node === null && bench.pickedLayers.length > 1">
            · rows change {{ bench.pickedLayers.length }} layers</template
          >
          <template v-if="findings.length">
            · {{ findings.length }} check{{ findings.length > 1 ? 's' : '' }}</template
          >
          {{ ' ' }}
          <UButton
            variant="link"
            class="curves"
            :aria-pressed="stage.panel === 'curves'"
            title="Reflectance and shape of the scattering (Shift+C)"
            @click="void (stage.panel = stage.panel === 'curves' ? null : 'curves')"
          >
            curves
          </UButton>
        </span>
      </div>
      <div class="scroll">
        <p v-if="tag === undefined" class="small pad">
          Pick a layer of the cross-section or a node of the network.
        </p>
        <p v-for="f in faults" :key="f.message" class="fault" role="alert">
          {{ f.input ? f.input + ': ' : '' }}{{ f.message }}
        </p>
        <p v-for="f in findings" :key="f.message" class="fault" data-testid="finding">
          {{ f.message }}
          <UButton v-if="canMend(bench.document!, f)" @click="fix(f)">{{ f.fix }}</UButton>
          <span v-else class="small">{{ f.fix }}.</span>
        </p>
        <div v-if="layer || element" class="property">
          <i />
          <span>Name</span>
          <span />
          <UInput
            :aria-label="layer ? 'Name of the layer' : 'Name of the node'"
            :model-value="title"
            @change="rename(($event.target as HTMLInputElement).value)"
          />
        </div>
        <template v-if="layer">
          <div v-if="layer.kind === 'stock' || layer.kind === 'deposit'" class="property">
            <i />
            <span>Matter</span>
            <span />
            <USelect
              aria-label="Matter"
              :model-value="matter"
              :items="MATTERS"
              :content="CALM"
              @update:model-value="become"
            />
          </div>
          <PropertyRow
            v-if="drivenThickness"
            :node="drivenThickness.node"
            :input="drivenThickness.input"
            label="Thickness"
            data-input="thickness"
            @goto="goto"
          />
          <ThicknessRow
            v-else-if="layer.kind === 'coat' || layer.kind === 'deposit'"
            :layer="layer"
            @change="thickness"
          />
        </template>
        <div v-if="types.length > 1 && !layer" class="property" data-testid="node-type">
          <i />
          <span>Type</span>
          <span />
          <USelect
            aria-label="Type of the node"
            :model-value="element?.attributes.type"
            :items="types"
            :content="CALM"
            @update:model-value="becomeType"
          />
        </div>
        <RampField v-if="tag === 'wl_ramp'" :key="subject!" :node="subject!" />
        <CurveField v-else-if="tag === 'wl_curve'" :key="subject!" :node="subject!" />
        <LevelsField v-else-if="tag === 'range'" :key="subject!" :node="subject!" />
        <PlacementField v-else-if="placed" :key="subject!" :node="subject!" />
        <template v-for="g in groups" :key="g.title">
          <h2 class="rule">{{ g.title }}</h2>
          <PropertyRow v-for="i in g.inputs" :key="subject + i.name" :node="subject!" :input="i" @goto="goto" />
        </template>
        <template v-if="layer && mixInput">
          <h2 class="rule">{{ layer.kind === 'cut' ? 'Cut' : 'Cover' }}</h2>
          <PropertyRow
            :node="layer.node"
            :input="mixInput"
            :label="layer.kind === 'cut' ? 'Mask' : 'Coverage'"
            @goto="goto"
          />
          <PropertyRow
            v-if="cut?.radius && radiusInput"
            :node="cut.radius"
            :input="radiusInput"
            label="Radius"
            @goto="goto"
          />
          <p v-if="cut" class="small pad">Lays bare: {{ cut.bare }}</p>
        </template>
        <ShapeRows v-if="layer?.kind === 'stock'" @goto="goto" />
      </div>
    </section>
  </PaneMenu>
</template>

<style scoped>
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.curves {
  text-decoration: underline dotted;
  min-height: 24px;
  color: var(--ink);
}
h2 {
  margin: 6px 0 0;
  padding: 6px 9px 2px;
  font-size: 12px;
  font-weight: 500;
  color: var(--soft);
}
.property .b {
  width: 100%;
  min-width: 0;
}
.pad {
  padding: 2px 9px;
  margin: 0;
}
.fault {
  margin: 0 9px 4px;
  padding: 3px 6px;
  border: 1px solid var(--ink);
  background: var(--raised);
}
</style>
