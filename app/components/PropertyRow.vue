<script setup lang="ts">
import { clearInput, setValue, splitPath } from '../../core/network/edit'
import { connectAcross } from '../../core/network/groups'
import { findElement, inputOf, isNode, nameOf } from '../../core/network/document'
import { COMPONENTS, formatValue, parseValue, unitScale } from '../../core/nodes/types'
import { isPublished, publish } from '../../core/scene/part-values'
import { toWorkingSpace } from '../../core/maps/colour-spaces'
import { labelOf, ownUnit, rangeOf } from '../words/labels'
import type { InputDefinition } from '../../core/nodes/definition'
import { wireImage } from '../files/wire-image'

/** One input of a node: what drives it, its name, its value. */
const props = defineProps<{ node: string; input: InputDefinition; label?: string }>()
const emit = defineEmits<{ goto: [string] }>()
const bench = useBench()
const say = useSay()

const element = computed(() => (bench.document ? findElement(bench.document, props.node) : undefined))
const stated = computed(() => (element.value ? inputOf(element.value, props.input.name)?.attributes : undefined))
/**
 * Path of what drives the input: a node beside this one, an output of a group, or an input of the group this node
 * is in.
 */
const container = computed(() => splitPath(props.node)[0])
const wire = computed(() =>
  stated.value?.nodename !== undefined
    ? (container.value ? `${container.value}/` : '') + stated.value.nodename
    : (stated.value?.nodegraph ?? (stated.value?.interfacename !== undefined ? container.value : undefined)),
)
const wireName = computed(() =>
  stated.value?.interfacename !== undefined
    ? `${container.value}: ${stated.value.interfacename}`
    : stated.value?.output !== undefined
      ? `${wire.value}: ${stated.value.output}`
      : wire.value?.slice(container.value ? container.value.length + 1 : 0),
)
const scale = computed(() => (unitScale(stated.value?.unit) ?? 1) * ownUnit(props.input))
const name = computed(() => props.label ?? labelOf(props.input.name))
const range = computed(() => rangeOf(props.input))
const numbers = computed<number[]>(() => {
  const text = stated.value?.value ?? props.input.default ?? ''
  const v = parseValue(props.input.type, text) ?? new Array(COMPONENTS[props.input.type] ?? 1).fill(0)
  return props.input.type.startsWith('color')
    ? toWorkingSpace(v, stated.value?.colorspace)
    : v.map(x => x * scale.value)
})
/** Colour space of the image that drives the input, where one does. */
const space = computed(() => {
  const from = wire.value !== undefined && bench.document ? findElement(bench.document, wire.value) : undefined
  const file = from && (from.tag === 'image' || from.tag === 'tiledimage') ? inputOf(from, 'file') : undefined
  if (!file || !from) return undefined
  return from.attributes.type?.startsWith('color') ? (file.attributes.colorspace ?? 'linear') : 'data'
})

function put(values: number[]): void {
  const colour = props.input.type.startsWith('color')
  bench.edit(
    `${name.value} of ${props.node}`,
    d => {
      const next = setValue(
        d,
        props.node,
        props.input.name,
        props.input.type,
        formatValue(props.input.type, colour ? values : values.map(v => v / scale.value)),
      )
      // what is written now is linear Rec.709, whatever space the value had before
      return colour && stated.value?.colorspace
        ? setValue(next, props.node, props.input.name, props.input.type, formatValue(props.input.type, values), {
            colorspace: 'lin_rec709',
          })
        : next
    },
    `${bench.materialKey}/${props.node}/${props.input.name}`,
  )
}
const putText = (text: string) =>
  bench.edit(`${name.value} of ${props.node}`, d =>
    setValue(d, props.node, props.input.name, props.input.type, text),
  )
const unwire = () => bench.edit(`Unplug ${name.value}`, d => clearInput(d, props.node, props.input.name))

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
})
function drive(from: string): void {
  choosing.value = false
  if (from)
    bench.edit(`Wire ${from} to ${name.value}`, d =>
      connectAcross(d, (container.value ? `${container.value}/` : '') + from, props.node, props.input.name),
    )
}

async function drop(e: DragEvent): Promise<void> {
  const file = e.dataTransfer?.files[0]
  if (!file) return
  try {
    const done = await wireImage(file, props.node, props.input)
    if (done) say.note(`${file.name} drives ${name.value}`, done)
  } catch (x) {
    say.fault(`${file.name} was not read`, messageOf(x))
  }
}
</script>

<template>
  <div
    class="row"
    :data-input="input.name"
    @pointerenter="atHand"
    @focusin="atHand"
    @dragover.prevent
    @drop.prevent.stop="drop"
  >
    <button
      v-if="wire !== undefined"
      class="socket full"
      :title="`Driven by ${wireName}: show it`"
      :aria-label="`Driven by ${wireName}`"
      @click="emit('goto', wire)"
    >
      <UIcon name="i-lucide-arrow-right" />
    </button>
    <button
      v-else
      class="socket"
      :aria-label="`Drive ${name} by a node`"
      :aria-expanded="choosing"
      title="Choose a node to drive it, or drop an image here"
      @click="choosing = !choosing"
    />
    <span class="name" :title="`${input.name} (${input.type})`"
      >{{ name
      }}<button
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
    <template v-if="choosing && wire === undefined">
      <select
        class="b many"
        :aria-label="`Node that drives ${name}`"
        @change="drive(($event.target as HTMLSelectElement).value)"
        @keydown.esc="choosing = false"
      >
        <option value="">{{ sources.length ? 'driven by …' : `no node gives ${input.type}` }}</option>
        <option v-for="s in sources" :key="s" :value="s">{{ s.replace(/_/g, ' ') }}</option>
      </select>
    </template>
    <template v-else-if="wire !== undefined">
      <button class="driver" :title="wireName" @click="emit('goto', wire)">
        {{ wireName }} ▸ <span v-if="space" class="small">{{ space }}</span>
      </button>
      <button class="b" :title="`Unplug ${wireName}`" :aria-label="`Unplug ${name}`" @click="unwire">
        unplug
      </button>
    </template>
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
    <template v-else-if="input.type === 'filename' || input.type === 'string'">
      <span class="small name">{{ stated?.wl_name ?? '' }}</span>
      <span class="small name" :title="stated?.value">{{
        stated?.value ? (stated?.colorspace ?? 'linear') : 'none'
      }}</span>
    </template>
    <NumberField
      v-else-if="numbers.length === 1"
      :label="name"
      :value="numbers[0]!"
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
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 22px minmax(112px, 1.3fr) minmax(0, 1fr) 76px;
  align-items: center;
  gap: 7px;
  min-height: 28px;
  padding: 0 9px;
}
.socket {
  width: 22px;
  height: 22px;
  border: 1px dashed var(--soft);
  display: inline-flex;
  align-items: center;
  justify-content: center;
}
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
.row:hover .publish,
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
.many :deep(span) {
  display: none;
}
</style>
