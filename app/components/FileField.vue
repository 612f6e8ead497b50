<script setup lang="ts">
import { ACCEPTED_PICTURES } from '../../core/formats/pictures/ending'
import { CALM } from '../input/calm'
import { COLOUR_SPACES } from '../../core/maps/colour-spaces'
import { ASSET } from '../../core/network/asset'
import { projectPictures, replaceImage, setPicture } from '../files/replace-image'

/** The picture of a node: what it is, another one from the project or from a file, and how its colours are read. */
const props = defineProps<{
  node: string
  input: string
  /** As the document names it; undefined where none is chosen. */
  file: string | undefined
  name: string | undefined
  /** The space that its colours are in; undefined where they are data. */
  space: string | undefined
}>()
const emit = defineEmits<{ space: [space: string] }>()
const stage = useStage()
const say = useSay()
const picking = ref<HTMLInputElement>()
const hash = computed(() => (props.file === undefined ? undefined : ASSET.exec(props.file)?.[1]))
/** Formats that a page can show; others have their name alone. */
const shown = computed(() => hash.value !== undefined && /\.(png|jpe?g)$/i.test(props.name ?? ''))
const says = computed(() => {
  void stage.loaded
  const p = props.file === undefined ? undefined : stage.picture(props.file)
  if (!p) return props.file !== undefined && stage.isMissing(props.file) ? 'not there' : ''
  const bits =
    p.depth === 'half'
      ? 'half'
      : p.depth === 'sixteen'
        ? '16 bit'
        : p.data instanceof Float32Array
          ? 'float'
          : '8 bit'
  return `${p.width} × ${p.height}, ${bits}`
})
const items = ref<{ label: string; onSelect?: () => void; type?: 'label' }[]>([])
/** Made when it is opened: other materials may have got pictures meanwhile. */
function offer(open: boolean): void {
  if (!open) return
  const pictures = projectPictures().filter(p => p.file !== props.file)
  items.value = [
    { label: 'A file …', onSelect: () => picking.value?.click() },
    ...(pictures.length ? [{ label: 'In this project', type: 'label' as const }] : []),
    ...pictures.map(p => ({ label: p.name, onSelect: () => void setPicture(props.node, props.input, p) })),
  ]
}
async function take(files: FileList | null | undefined): Promise<void> {
  const file = files?.[0]
  if (!file) return
  try {
    const size = await replaceImage(file, props.node, props.input)
    say.note(`${file.name} is the picture of ${props.node}`, size)
  } catch (e) {
    say.fault(`${file.name} was not read`, messageOf(e))
  }
}
defineExpose({ take })
const spaces: string[] = [...COLOUR_SPACES]
</script>

<template>
  <span class="file">
    <span class="pic"><img v-if="shown" :src="`/api/assets/${hash}`" :alt="name" /></span>
    <span class="says">
      <span class="cut" :title="name">{{ name ?? (file ? 'picture' : 'no picture') }}</span>
      <span class="small cut">{{ says }}</span>
    </span>
    <UDropdownMenu :items="items" :modal="false" :content="{ align: 'end', sideOffset: 2 }" @update:open="offer">
      <UButton
        :aria-label="`Choose the picture of ${node}`"
        title="A file, or a picture of this project; or drop one here"
      >
        {{ file ? 'exchange' : 'choose' }}
      </UButton>
    </UDropdownMenu>
    <USelect
      v-if="space !== undefined"
      class="space"
      :aria-label="`Colour space of the picture of ${node}`"
      title="The space that its colours are in"
      :model-value="space"
      :items="spaces"
      :content="CALM"
      @update:model-value="emit('space', $event)"
    />
    <input
      ref="picking"
      type="file"
      :accept="ACCEPTED_PICTURES"
      hidden
      :data-testid="`picture-of-${input}`"
      @change="
        take(($event.target as HTMLInputElement).files)
        ;($event.target as HTMLInputElement).value = ''
      "
    />
  </span>
</template>

<style scoped>
.file {
  grid-column: 3 / 5;
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  align-items: center;
  gap: 3px 6px;
  padding: 2px 0;
}
.pic {
  width: 28px;
  height: 28px;
  background: var(--ground);
  border: 1px solid var(--rule);
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}
.says {
  display: grid;
  min-width: 0;
  line-height: 1.15;
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.space {
  grid-column: 1 / -1;
}
</style>
