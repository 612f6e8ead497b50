<script setup lang="ts">
import { layersOfRig } from '../../core/light/create-lights'
import type { Panel, Rig } from '../../core/scene/rig'
import { brightest, changePanels, dimmed, entriesOf, grouped, groupsOf, repeated } from '../lights/panel-groups'
import { counted } from '../words/counted'
import { evOf } from '../words/units'

/** The panels of a rig: rows of their own, or below the group that they belong to. */
const props = defineProps<{ rig: Rig; middle: readonly number[] }>()
const emit = defineEmits<{ change: [label: string, edit: (r: Rig) => Rig, key?: string] }>()
const { panelShown: shown } = storeToRefs(useStage())

/** Rows that are made at once: a list of hundreds waits to be asked for. */
const ROWS = 40
const rows = ref(ROWS)
/** Groups that are open, and how many of their rows are shown. */
const open = ref(new Map<string, number>())
watch(
  () => props.rig.name,
  () => {
    rows.value = ROWS
    open.value = new Map()
  },
)
const entries = computed(() => entriesOf(props.rig.panels))
const layers = computed(() => layersOfRig(props.rig))
const groups = computed(() => groupsOf(props.rig.panels))
const panelsAt = (at: readonly number[]) => at.map(i => props.rig.panels[i]!)
const nameOf = (i: number) => props.rig.panels[i]?.name ?? ''
const shownOf = (name: string) => open.value.get(name) ?? 0
const showOf = (name: string, n: number): void => void (open.value = new Map(open.value).set(name, n))

const change = (at: readonly number[], label: string, edit: (p: Panel) => Panel, key?: string) =>
  emit('change', label, r => changePanels(r, at, edit), key)
/** Brings the brightest of some panels to a level, the others with it. */
const level = (at: readonly number[], label: string, ev: number) => {
  const most = brightest(panelsAt(at)) || 1
  change(at, label, p => dimmed(p, 2 ** ev / most), `panels${at[0]}`)
}
const take = (at: readonly number[], label: string) => {
  shown.value = null
  const gone = new Set(at)
  emit('change', `Take ${label} away`, r => ({ ...r, panels: r.panels.filter((_, i) => !gone.has(i)) }))
}
const rename = (name: string, at: readonly number[], to: string) => {
  if (!to.trim() || to.trim() === name) return
  showOf(to.trim(), shownOf(name))
  change(at, `Rename the group ${name}`, p => grouped(p, to))
}
const join = (i: number, name: string) => {
  if (name.trim()) showOf(name.trim(), Math.max(ROWS, shownOf(name.trim())))
  change([i], name.trim() ? `${nameOf(i)} into ${name.trim()}` : `${nameOf(i)} out of its group`, p =>
    grouped(p, name),
  )
}
const repeat = async (i: number, across: number, down: number, apart: number) => {
  emit('change', `Repeat ${nameOf(i)}`, r => repeated(r, i, across, down, apart))
  await nextTick()
  const group = props.rig.panels[i]?.group
  if (group) showOf(group, ROWS)
}
/** All rows in the order in which they stand. */
type Row =
  | { kind: 'panel'; at: number; inside: boolean }
  | { kind: 'group'; name: string; at: number[] }
  | { kind: 'inside'; name: string; at: number[] }
  | { kind: 'more'; name: string; left: number }
const list = computed((): Row[] => {
  const all = entries.value.slice(0, rows.value).flatMap((e): Row[] => {
    if (e.kind === 'panel') return [{ ...e, inside: false }]
    const n = shownOf(e.name)
    if (n === 0) return [e]
    const inside = e.at.slice(0, n).map((at): Row => ({ kind: 'panel', at, inside: true }))
    const left = e.at.length - inside.length
    const more: Row[] = left > 0 ? [{ kind: 'more', name: e.name, left }] : []
    return [e, { ...e, kind: 'inside' }, ...inside, ...more]
  })
  const left = entries.value.length - rows.value
  return left > 0 ? [...all, { kind: 'more', name: '', left }] : all
})
const keyOf = (r: Row) => (r.kind === 'panel' ? r.at : `${r.kind} ${r.name}`)
const more = (name: string) => {
  if (name) showOf(name, shownOf(name) + ROWS)
  else rows.value += ROWS
}
</script>

<template>
  <template v-for="r in list" :key="keyOf(r)">
    <template v-if="r.kind === 'panel' && rig.panels[r.at]">
      <div class="row" :class="{ inside: r.inside }">
        <UButton
          variant="link"
          class="name"
          :aria-expanded="shown === r.at"
          :title="`${nameOf(r.at)}: how it shines and where it stands`"
          @click="void (shown = shown === r.at ? null : r.at)"
        >
          {{ nameOf(r.at) }}
        </UButton>
        <template v-if="!rig.panels[r.at]!.blocks">
          <NumberField
            :label="`Level of ${nameOf(r.at)}`"
            :value="evOf(Math.max(...rig.panels[r.at]!.radiance))"
            :low="-6"
            :high="20"
            @change="level([r.at], `Panel ${nameOf(r.at)}`, $event)"
          />
          <span>EV</span>
          <AloneLight v-if="!r.inside" :light="layers.of[r.at]!" :of="layers.names[layers.of[r.at]!]!" />
          <span v-else />
        </template>
        <span v-else class="small">blocks light</span>
      </div>
      <PanelFields
        v-if="shown === r.at"
        :panel="rig.panels[r.at]!"
        :groups="groups"
        :middle="middle"
        @change="(edit, key) => change([r.at], `Panel ${nameOf(r.at)}`, edit, `${key}${r.at}`)"
        @group="name => join(r.at, name)"
        @repeat="(across, down, apart) => repeat(r.at, across, down, apart)"
        @remove="take([r.at], nameOf(r.at))"
      />
    </template>
    <div v-else-if="r.kind === 'group'" class="row" data-testid="panel-group">
      <UButton
        variant="link"
        class="name"
        :aria-expanded="shownOf(r.name) > 0"
        :title="`${r.name}: a group of ${counted(r.at.length, 'panel')}`"
        @click="showOf(r.name, shownOf(r.name) ? 0 : ROWS)"
      >
        {{ r.name }} <span class="small">{{ r.at.length }}</span>
      </UButton>
      <NumberField
        :label="`Level of the group ${r.name}`"
        :value="evOf(brightest(panelsAt(r.at)))"
        :low="-6"
        :high="20"
        why="Of the brightest; the others follow"
        @change="level(r.at, `Group ${r.name}`, $event)"
      />
      <span>EV</span>
      <AloneLight :light="layers.of[r.at[0]!]!" :of="layers.names[layers.of[r.at[0]!]!]!" />
    </div>
    <div v-else-if="r.kind === 'inside'" class="row inside">
      <span>Group</span>
      <UInput
        :aria-label="`Name of the group ${r.name}`"
        maxlength="100"
        :model-value="r.name"
        @change="rename(r.name, r.at, ($event.target as HTMLInputElement).value)"
      />
      <UButton class="both" @click="take(r.at, `the group ${r.name}`)">Take away</UButton>
    </div>
    <div v-else-if="r.kind === 'more'" class="row">
      <UButton class="both" @click="more(r.name)">
        {{ Math.min(r.left, ROWS) }} more of {{ counted(r.left, 'row') }} {{ r.name && `of ${r.name}` }}
      </UButton>
    </div>
  </template>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) 84px 22px 44px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px;
}
.row.inside {
  padding-left: 18px;
  grid-template-columns: 67px minmax(0, 1fr) 84px 22px 44px;
}
.both {
  grid-column: 2 / 4;
}
.inside .both {
  grid-column: 3 / 6;
}
.b.t.name {
  text-align: left;
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  min-height: 24px;
  text-decoration: underline dotted;
  cursor: pointer;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
