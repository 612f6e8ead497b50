<script setup lang="ts">
import { joinPath, setValue, splitPath } from '../../core/network/edit'
import { beginLength } from '../bench/begin'
import { drive as driveBy } from '../bench/drive'
import { withInput } from '../../core/network/with-input'
import { titleOf } from '../../core/network/names'
import { unplug } from '../../core/network/unplug'
import { findElement, inputOf, isNode, nameOf, type Element } from '../../core/network/document'
import { COMPONENTS, formatValue, parseValue, unitScale } from '../../core/nodes/types'
import { isPublished, publish } from '../../core/scene/part-values'
import { toWorkingSpace } from '../../core/maps/colour-spaces'
import { labelOf } from '../words/labels'
import { shownAs } from '../words/shown-as'
import { geometricDefault, type InputDefinition } from '../../core/nodes/definition'
import { PART_GIVES } from '../words/part-gives'
import { driveByFile } from '../files/drive-by-file'

/** One input of a node: what drives it, its name, its value. */
const props = defineProps<{ node: string; input: InputDefinition; label?: string }>()
const emit = defineEmits<{ goto: [string] }>()
const OF_PART = 'Nothing is wired here: the part gives it, at each of its points'
const bench = useBench()
const stage = useStage()

const element = computed(() => (bench.document ? findElement(bench.document, props.node) : undefined))
const stated = computed(() => (element.value ? inputOf(element.value, props.input.name)?.attributes : undefined))
/**
 * Path of what drives the input: a node beside this one, an output of a group, or an input of the group this node
 * is in.
 */
const container = computed(() => splitPath(props.node)[0])
const wire = computed(() =>
  stated.value?.nodename !== undefined
    ? joinPath(container.value, stated.value.nodename)
    : (stated.value?.nodegraph ?? (stated.value?.interfacename !== undefined ? container.value : undefined)),
)
const wireName = computed(() =>
  stated.value?.interfacename !== undefined
    ? `${container.value}: ${stated.value.interfacename}`
    : stated.value?.output !== undefined
      ? `${wire.value}: ${stated.value.output}`
      : wire.value !== undefined && bench.document
        ? (findElement(bench.document, wire.value)?.attributes.wl_title ?? splitPath(wire.value)[1])
        : undefined,
)
/** How its numbers are shown: in the unit of what they feed. */
const shown = steady(() => (bench.document ? shownAs(bench.document, props.node, props.input) : undefined))
const scale = computed(() => (unitScale(stated.value?.unit) ?? 1) * (shown.value?.own ?? 1))
const name = computed(() => props.label ?? labelOf(props.input.name))
/** What the part gives where nothing is wired or said. */
const ofPart = computed(() => {
  const property = geometricDefault(props.input)
  return property === undefined || stated.value?.value !== undefined ? undefined : PART_GIVES[property]?.long
})
/** What a field of numbers is told. A length is not negative. */
const range = computed(() => {
  const {
    quantity = 'plain',
    unit = '',
    low = -Infinity,
    high = Infinity,
    log = false,
    signed,
  } = shown.value ?? {}
  return { quantity, unit, low, high, log, ...(quantity === 'length' && !signed ? { least: 0 } : {}) }
})
const numbers = computed<number[]>(() => {
  const text = stated.value?.value ?? props.input.default ?? ''
  const v = parseValue(props.input.type, text) ?? new Array(COMPONENTS[props.input.type] ?? 1).fill(0)
  return props.input.type.startsWith('color')
    ? toWorkingSpace(v, stated.value?.colorspace)
    : v.map(x => x * scale.value)
})
/** What the node's definition gives, as the row shows it. */
const initial = computed(() => {
  const v = parseValue(props.input.type, props.input.default ?? '')
  return v?.length === 1 ? v.map(x => x * (shown.value?.own ?? 1)).at(0) : undefined
})
/** Colour space of the image that drives the input, where one does. */
const space = computed(() => {
  const from = wire.value !== undefined && bench.document ? findElement(bench.document, wire.value) : undefined
  const file = from && (from.tag === 'image' || from.tag === 'tiledimage') ? inputOf(from, 'file') : undefined
  if (!file || !from) return undefined
  return from.attributes.type?.startsWith('color') ? (file.attributes.colorspace ?? 'linear') : 'data'
})

/** Nodes whose input of this name and type is changed: this one, and those picked with it. */
const changed = computed(() =>
  bench.document && bench.together.includes(props.node)
    ? [props.node, ...withInput(bench.document, bench.together, props.input).filter(n => n !== props.node)]
    : [props.node],
)
const doing = computed(() =>
  changed.value.length > 1 ? `${name.value} of ${changed.value.length} nodes` : `${name.value} of ${props.node}`,
)
function put(values: number[]): void {
  const { name: input, type } = props.input
  const colour = type.startsWith('color')
  const text = formatValue(type, colour ? values : values.map(v => v / scale.value))
  // what is written now is linear Rec.709, whatever space the value had before
  const space = (d: Element, node: string): Record<string, string> =>
    colour && inputOf(findElement(d, node)!, input)?.attributes.colorspace ? { colorspace: 'lin_rec709' } : {}
  const one = (d: Element, node: string) => {
    const next = setValue(d, node, input, type, text, space(d, node))
    return values.at(0) ? beginLength(next, node, input, stage.atHand) : next
  }
  bench.edit(doing.value, d => changed.value.reduce(one, d), `${bench.materialKey}/${props.node}/${input}`)
}
const putText = (text: string) =>
  bench.edit(doing.value, d =>
    changed.value.reduce((x, node) => setValue(x, node, props.input.name, props.input.type, text), d),
  )
const unwire = () => bench.edit(`Unplug ${name.value}`, d => unplug(d, props.node, props.input.name))

/** Says which number is at hand, so that T can make a test strip of it. */
function atHand(): void {
  if (
    wire.value !== undefined ||
    numbers.value.length !== 1 ||
    props.input.type !== 'float' ||
    bench.materialKey === null
  ) {
    bench.numberAt = null
    return
  }
  bench.numberAt = {
    material: bench.materialKey,
    node: props.node,
    input: props.input.name,
    label: name.value,
    value: numbers.value[0]!,
    ...range.value,
    scale: scale.value,
  }
}

const published = computed(() => element.value !== undefined && isPublished(element.value, props.input.name))
/**
 * Only plain values of the material's own nodes can be published; parts have no say over the inputs of a group.
 */
const publishable = computed(
  () =>
    wire.value === undefined &&
    element.value !== undefined &&
    isNode(element.value) &&
    COMPONENTS[props.input.type] !== undefined,
)
const togglePublished = () =>
  bench.edit(published.value ? `Keep ${name.value} to the material` : `Publish ${name.value}`, d =>
    publish(
      d,
      props.node,
      props.input.name,
      published.value ? undefined : `${props.node.split('/').at(-1)!.replace(/_/g, ' ')}: ${name.value}`,
    ),
  )

/** Whether a node is being chosen to drive the input; those beside this one that give what it takes. */
const choosing = ref(false)
const sources = computed(() => {
  if (!choosing.value || !bench.document) return []
  const beside = container.value ? findElement(bench.document, container.value)?.children : bench.document.children
  return (beside ?? [])
    .filter(e => isNode(e) && e !== element.value && e.attributes.type === props.input.type)
    .map(nameOf)
    .map(source => {
      const path = joinPath(container.value, source)
      return { path, name: source, title: titleOf(bench.document!, path) }
    })
})
function drive(from: string): void {
  choosing.value = false
  if (from)
    bench.edit(`Wire ${from} to ${name.value}`, d =>
      driveBy(d, joinPath(container.value, from), props.node, props.input.name, undefined, stage.atHand.extent),
    )
}

const picture = ref<{ take(files: FileList | null | undefined): Promise<void> }>()
const readAs = (space: string) =>
  bench.edit(`${name.value} of ${props.node} is read as ${space}`, d =>
    setValue(d, props.node, props.input.name, props.input.type, stated.value?.value ?? '', { colorspace: space }),
  )

async function drop(e: DragEvent): Promise<void> {
  const file = e.dataTransfer?.files[0]
  if (!file) return
  // the picture that the node has is exchanged: its wires and values stay
  if (picture.value) {
    await picture.value.take(e.dataTransfer?.files)
    return
  }
  await driveByFile(file, props.node, props.input, name.value)
}
</script>

<template>
  <div
    class="property"
    :data-input="input.name"
    :data-node="node"
    @pointerenter="atHand"
    @focusin="atHand"
    @dragover.prevent
    @drop.prevent.stop="drop"
  >
    <button
      class="socket"
      :class="{ full: wire !== undefined }"
      :aria-label="`Drive ${name} by a${wire !== undefined ? 'nother' : ''} node`"
      :aria-expanded="choosing"
      title="Choose a node to drive it, or drop an image here"
      @click="choosing = !choosing"
    >
      <UIcon v-if="wire !== undefined" name="i-lucide-arrow-right" />
    </button>
    <span class="name" :title="`${input.name} (${input.type})`"
      >{{ name }}<small v-if="changed.length > 1"> × {{ changed.length }}</small
      ><button
        v-if="publishable"
        class="publish"
        :class="{ on: published }"
        :aria-pressed="published"
        :aria-label="`Publish ${name}`"
        :title="
          published
            ? 'Published: parts may have their own value. Keep it to the material'
            : 'Publish: parts may have their own value'
        "
        @click="togglePublished"
      >
        <UIcon name="i-lucide-share-2" />
      </button>
    </span>
    <template v-if="choosing">
      <select
        class="b many"
        :aria-label="`Node that drives ${name}`"
        @change="drive(($event.target as HTMLSelectElement).value)"
        @keydown.esc="choosing = false"
      >
        <option value="">{{ sources.length ? 'driven by …' : `no node gives ${input.type}` }}</option>
        <option v-for="s in sources" :key="s.path" :value="s.name">{{ s.title }}</option>
      </select>
    </template>
    <template v-else-if="wire !== undefined">
      <button
        class="driver"
        :title="`Driven by ${wireName}: show it`"
        :aria-label="`Driven by ${wireName} ▸ ${space ?? ''}`"
        @click="emit('goto', wire)"
      >
        {{ wireName }} ▸ <span v-if="space" class="small">{{ space }}</span>
      </button>
      <button class="b" :title="`Unplug ${wireName}`" :aria-label="`Unplug ${name}`" @click="unwire">
        unplug
      </button>
      <NormalAs v-if="/normal$/.test(input.name)" :node="node" :input="input.name" />
    </template>
    <span v-else-if="ofPart" class="many small" :title="OF_PART">{{ ofPart }}</span>
    <ColourField v-else-if="input.type === 'color3'" :label="name" :value="numbers" @change="put" />
    <template v-else-if="input.enum && input.type === 'string'">
      <span />
      <select
        class="b"
        :aria-label="name"
        :value="stated?.value ?? input.default"
        @change="putText(($event.target as HTMLSelectElement).value)"
      >
        <option v-for="o in input.enum.split(',')" :key="o">{{ o }}</option>
      </select>
    </template>
    <template v-else-if="input.type === 'boolean'">
      <span />
      <input
        type="checkbox"
        :aria-label="name"
        :checked="numbers[0] === 1"
        @change="put([($event.target as HTMLInputElement).checked ? 1 : 0])"
      />
    </template>
    <FileField
      v-else-if="input.type === 'filename'"
      ref="picture"
      :node="node"
      :input="input.name"
      :file="stated?.value || undefined"
      :name="stated?.wl_name"
      :space="element?.attributes.type?.startsWith('color') ? (stated?.colorspace ?? 'lin_rec709') : undefined"
      @space="readAs"
    />
    <template v-else-if="input.type === 'string'">
      <span class="small name" :title="stated?.value">{{ stated?.value ?? '' }}</span>
      <span />
    </template>
    <NumberField
      v-else-if="numbers.length === 1"
      :label="name"
      :value="numbers[0]!"
      :initial="initial"
      v-bind="range"
      @change="put([$event])"
    />
    <span v-else class="many">
      <NumberField
        v-for="(v, i) in numbers"
        :key="i"
        :label="`${name} ${i + 1}`"
        :value="v"
        :slider="false"
        :quantity="range.quantity"
        :unit="range.unit"
        @change="put(numbers.map((x, k) => (k === i ? $event : x)))"
      />
    </span>
    <span v-if="shown?.mixed && wire === undefined" class="note small">
      feeds rows of different units: a plain number
    </span>
  </div>
</template>

<style scoped>
.socket.full {
  border-style: solid;
  background: var(--raised);
}
.publish {
  opacity: 0;
  /* over the end of the name, which has all of the width otherwise */
  position: absolute;
  right: 0;
  top: 0;
  width: 20px;
  height: 100%;
  background: var(--paper);
}
.publish.on {
  opacity: 1;
}
.property:hover .publish,
.publish:focus-visible {
  opacity: 1;
}
.name {
  position: relative;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.driver {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
}
.many {
  grid-column: 3 / 5;
  display: flex;
  gap: 3px;
}
.many :deep(span:not(.reason)) {
  display: none;
}
.note {
  grid-column: 2 / 5;
  text-align: right;
}
</style>
