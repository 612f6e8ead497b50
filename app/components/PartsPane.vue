<script setup lang="ts">
import { ACCEPTED_PICTURES } from '../../core/formats/pictures/ending'
import { takePictures } from '../bench/useDrops'
import { surfaceAtHand } from '../files/drop-pictures'
import { kindOf } from '../files/kinds'
import { CALM } from '../input/calm'
import { inputOf } from '../../core/network/document'
import { setAttribute } from '../../core/network/edit'
import { specimens } from '../../core/network/specimens'
import { starters } from '../../core/network/starters'
import { passesStraight, STRAIGHT } from '../../core/world/compile-material'
import { withValues } from '../../core/scene/part-values'
import { documentTint } from '../pictures/tint'
import { usePartMenu } from '../menus/usePartMenu'
import { usePartEdits } from '../parts/usePartEdits'

const CARRY = 'Drag it onto another part, here or in the picture, to give that the same material'
const PASS_STRAIGHT =
  'Lamps light what lies behind this material as if it did not bend light: quick and quiet, but without ' +
  'caustics, and shadows of rough glass stay sharp. Off, light finds its own way, which takes long'
const IN_OTHER_GLASS =
  'Where glasses lie in each other, as a liquid that reaches a little into its glass, the higher one counts'
const bench = useBench()
const say = useSay()
const importing = ref<HTMLInputElement>()

const rows = steady(() =>
  (bench.scene?.parts ?? []).map(p => {
    const d = bench.state?.materials[p.material]
    return {
      name: p.name,
      material: p.material,
      hidden: p.hidden === true,
      tint: d ? documentTint(withValues(d, p.values), bench.scene?.materials[p.material]?.material) : '#808080',
    }
  }),
)
/** Priorities of glasses. */
const PRIORITIES = Array.from({ length: 10 }, (_, n) => n)
const heading = (label: string) => ({ type: 'label' as const, label, value: '' })
const fresh = (s: { key: string; title: string }) => ({ value: 'new:' + s.key, label: s.title })
const NEW = [
  [heading('New from a starter'), ...starters.map(fresh)],
  ...[...new Set(specimens.map(s => s.class))].map(c => [
    heading(`Measured: ${c}`),
    ...specimens.filter(s => s.class === c).map(fresh),
  ]),
  [heading('From a file'), { value: 'import:', label: 'Import .mtlx or .zip …' }],
]
const keys = steady(() => Object.keys(bench.state?.materials ?? {}))
/** What the part may wear. */
const wearables = computed(() => [
  [heading('In this project'), ...keys.value.map(key => ({ value: 'key:' + key, label: key }))],
  ...NEW,
])

/** Puts a starter or a specimen on the part. */
function give(key: string): void {
  const s = [...starters, ...specimens].find(x => x.key === key)
  if (!s || bench.part === null) return
  bench.assign(bench.part, bench.freeKey(s.title), s.make())
}
function choose(value: string): void {
  if (bench.part === null) return
  if (value.startsWith('new:')) give(value.slice(4))
  else if (value === 'import:') importing.value?.click()
  else bench.assign(bench.part, value.slice(4))
}
async function bringIn(files: FileList | File[] | null | undefined): Promise<void> {
  if (!files?.length || bench.part === null) return
  try {
    const list = [...files]
    const { readMaterialFiles } = await import('../files/material-files')
    const { document, name, missing, lost } = await readMaterialFiles(list)
    bench.assign(bench.part, bench.freeKey(name), document)
    say.report(`${name} is now on ${bench.part}`, undefined, [
      ...missing.map(file => `${file} did not come with it`),
      ...lost,
    ])
  } catch (e) {
    say.fault('The material was not read', messageOf(e))
  }
}
/** Whether the part wears something that light passes, so that it may lie in other glass. */
const glassy = computed(
  () =>
    bench.document !== null &&
    bench.document !== undefined &&
    bench.document.children.some(
      n =>
        n.tag === 'wl_glass' ||
        n.tag === 'dielectric_bsdf' ||
        (n.tag === 'open_pbr_surface' && Number(inputOf(n, 'transmission_weight')?.attributes.value ?? 0) > 0),
    ),
)
const priority = computed(() => bench.scene?.parts.find(p => p.name === bench.part)?.priority ?? 0)
const setPriority = (n: number) =>
  bench.changeScene(`Priority of ${bench.part}`, s => ({
    ...s,
    parts: s.parts.map(p => (p.name === bench.part ? { ...p, priority: n } : p)),
  }))
const materialNode = computed(
  () =>
    bench.materialName ?? (bench.materialKey !== null ? bench.materialNameOf(bench.materialKey) : undefined) ?? '',
)
const straight = computed(() => (bench.document ? passesStraight(bench.document, materialNode.value) : false))
const setStraight = (on: boolean) =>
  bench.edit(`Straight shadows of ${bench.materialKey} ${on ? 'on' : 'off'}`, d =>
    setAttribute(d, materialNode.value, STRAIGHT, on ? 'true' : undefined),
  )
const { toggle, alone } = usePartEdits()
const partMenu = usePartMenu()
const menuOf = (at: Element) => {
  const name = at.closest<HTMLElement>('[data-part]')?.dataset.part
  return name === undefined ? [] : partMenu(name)
}
/** Kind of what is carried when a part's material is dragged onto another part. */
const CARRIED = 'text/wavelume-material'
const carry = (e: DragEvent, material: string) => e.dataTransfer?.setData(CARRIED, material)
/** A material of the project or a file of one, dropped on a part here or in the picture. */
function drop(e: DragEvent, name: string): void {
  const files = e.dataTransfer?.files
  const carried = e.dataTransfer?.getData(CARRIED)
  if (carried && bench.state?.materials[carried]) {
    bench.assign(name, carried)
    bench.selectPart(name)
    say.note(`${name} wears ${carried}`)
    return
  }
  if (!files?.length) return
  bench.selectPart(name)
  const list = [...files]
  if (list.every(f => kindOf(f.name) === 'picture')) void takePictures(list, surfaceAtHand())
  else void bringIn(list)
}
defineExpose({ drop })
</script>

<template>
  <PaneMenu :of="menuOf">
    <section class="pane" aria-label="Parts">
      <div class="head">
        <b>Parts</b>
        <span>{{ rows.length }}</span>
      </div>
      <ul class="scroll" aria-label="Parts of the model">
        <li
          v-for="p in rows"
          :key="p.name"
          :data-part="p.name"
          :class="{ at: p.name === bench.part, hidden: p.hidden }"
          draggable="true"
          @dragstart="carry($event, p.material)"
          @dragover.prevent
          @drop.prevent="drop($event, p.name)"
        >
          <button
            class="pick"
            :aria-pressed="p.name === bench.part"
            :title="`${p.name}: ${p.material}. ${CARRY}`"
            @click="bench.selectPart(p.name)"
          >
            <i :style="{ background: p.tint }" />
            <span>{{ p.name }}</span>
          </button>
          <UButton
            variant="ghost"
            class="alone"
            :class="{ on: bench.partAlone === p.name }"
            :aria-label="`Show ${p.name} alone`"
            :aria-pressed="bench.partAlone === p.name"
            title="Alone (Shift+A)"
            @click.stop="alone(p.name)"
          >
            <UIcon name="i-lucide-square-user" />
          </UButton>
          <UButton
            variant="ghost"
            :aria-label="p.hidden ? `Show ${p.name}` : `Hide ${p.name}`"
            :title="p.hidden ? 'Hidden: show' : 'Hide'"
            @click.stop="toggle(p.name)"
          >
            <UIcon :name="p.hidden ? 'i-lucide-eye-off' : 'i-lucide-eye'" />
          </UButton>
        </li>
      </ul>
      <div class="wear rule">
        <span class="small" aria-hidden="true">Material of {{ bench.part }}</span>
        <USelect
          :aria-label="`Material of ${bench.part}`"
          :model-value="'key:' + bench.materialKey"
          :items="wearables"
          :content="CALM"
          @update:model-value="choose"
        />
        <OwnValues />
        <label v-if="glassy" class="small priority" :title="IN_OTHER_GLASS"
          >Priority in other glass
          <USelect
            :aria-label="`Priority of ${bench.part} in other glass`"
            :model-value="priority"
            :items="PRIORITIES"
            :content="CALM"
            @update:model-value="setPriority"
          />
        </label>
        <UCheckbox
          v-if="glassy"
          class="priority"
          label="Shadows pass straight"
          :title="PASS_STRAIGHT"
          :model-value="straight"
          @update:model-value="on => setStraight(on === true)"
        />
        <input
          ref="importing"
          type="file"
          :accept="`.mtlx,.zip,${ACCEPTED_PICTURES}`"
          multiple
          hidden
          data-testid="import-material"
          @change="
            bringIn(($event.target as HTMLInputElement).files)
            ;($event.target as HTMLInputElement).value = ''
          "
        />
      </div>
    </section>
  </PaneMenu>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  padding: 1px 2px 1px 0;
  min-height: 26px;
  border: 2px solid transparent;
  cursor: default;
  position: relative;
}
li.at {
  border-color: var(--accent);
  background: var(--raised);
  font-weight: 600;
}
li.hidden {
  display: flex;
  color: var(--soft);
  text-decoration: line-through;
}
.pick {
  flex: 1;
  min-width: 0;
  min-height: 24px;
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 0 4px 0 7px;
  text-align: left;
  font-weight: inherit;
  text-decoration: inherit;
}
.pick span {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li i {
  display: block;
  width: 18px;
  height: 18px;
  border: 1px solid var(--ink);
  flex: none;
}
li .q {
  opacity: 0.75;
}
li .alone:not(.on) {
  position: absolute;
  right: 26px;
  opacity: 0;
  background: var(--raised);
}
li:hover .alone,
li .alone:focus-visible {
  opacity: 1;
}
li .q.on {
  opacity: 1;
  outline: 2px solid var(--accent);
  outline-offset: -3px;
}
.wear {
  padding: 5px 7px 7px;
}
.wear > .small {
  display: block;
}
.wear > .choice-field {
  min-width: 0;
  width: 100%;
}
.priority {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 6px;
  margin-top: 4px;
}
</style>
