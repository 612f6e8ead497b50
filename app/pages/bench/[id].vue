<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes'
import { clampSays } from '../../../core/scene/clamp-says'
import { addNode, setAttribute, splitPath } from '../../../core/network/edit'
import { findElement } from '../../../core/network/document'
import { removeLayer } from '../../../core/network/layers'
import { insertOnWire } from '../../../core/network/splice'
import CrossSection from '../../components/CrossSection.vue'
import TopBar from '../../components/TopBar.vue'
import ViewPane from '../../components/ViewPane.vue'
import { fieldOf } from '../../input/field'
import { saveFile } from '../../files/save-file'

// the graph canvas is large: it is fetched while the first picture is computed
const NetworkPane = defineAsyncComponent(() => import('../../components/NetworkPane.vue'))
const bench = useBench()
const stage = useStage()
const proofs = useProofs()
const say = useSay()
const route = useRoute()
const id = String(route.params.id)
const ready = computed(() => bench.state !== null)
/** Whether a first picture stands: the network is laid out after it. */
const seen = ref(false)
watch(
  () => stage.drawn,
  d => {
    if (d) seen.value = true
  },
)
const versions = useVersions()
useChecks()
const theme = useTheme()
const failed = ref('')
const wipe = ref<number | null>(null)
const hold = ref(false)
const differ = ref(false)
const differs = ref('')
const size = reactive({ width: 760, height: 475 })
const section = shallowRef<Float64Array | null>(null)
const large = ref<'none' | 'view' | 'network'>('none')
const help = ref(false)
const view = ref<InstanceType<typeof ViewPane>>()
const network = ref<{
  middle(): { x: number; y: number }
  pickedWire(): { target: string; input: string } | undefined
  tidyUp(): void
  groupPicked(): void
  ungroupPicked(): void
  openPicked(): void
  removeSelected(): void
  fit(): void
}>()
const cross = ref<InstanceType<typeof CrossSection>>()
const parts = ref<{ drop(e: DragEvent, name: string): void }>()

bench.state = null
const opening = stage.open(id)
async function openProject(): Promise<void> {
  try {
    bench.open(await opening)
    await proofs.open(id)
    await versions.lookForDraft()
  } catch (e) {
    failed.value = messageOf(e)
  }
}
onMounted(openProject)
onMounted(() =>
  setTimeout(() => {
    seen.value = true
  }, 4000),
)
onBeforeUnmount(() => stage.stop())
onMounted(() => {
  addEventListener('keydown', keyDown)
  addEventListener('keyup', keyUp)
  addEventListener('beforeunload', leaving)
})
onBeforeUnmount(() => {
  removeEventListener('keydown', keyDown)
  removeEventListener('keyup', keyUp)
  removeEventListener('beforeunload', leaving)
})
const leaving = (e: BeforeUnloadEvent) => {
  if (bench.dirty) e.preventDefault()
}

/**
 * Keeps the map of differences current: when what it compares changes, and as the live picture doubles its passes.
 */
watch(
  [
    differ,
    () => proofs.chosen,
    () => proofs.against,
    size,
    () => stage.look,
    () => Math.floor(Math.log2(Math.max(1, stage.drawn?.passes ?? 0))),
  ],
  async () => {
    const canvas = view.value?.map
    if (!differ.value || !canvas) return
    try {
      differs.value =
        (await proofs.difference(canvas, size.width, size.height)) ??
        'Differences are shown once a still is chosen and the first pass is complete.'
    } catch (e) {
      say.fault('The difference could not be shown', messageOf(e))
    }
  },
  { deep: true, flush: 'post' },
)
watch(
  [() => proofs.chosen, size, () => stage.look, wipe, hold],
  () => {
    const canvas = view.value?.still
    if (canvas && (wipe.value !== null || hold.value))
      proofs
        .draw(canvas, size.width, size.height)
        .catch(e => say.fault('The still could not be shown', messageOf(e)))
  },
  { deep: true, flush: 'post' },
)

async function keep(): Promise<void> {
  try {
    const p = await proofs.keep()
    say.note(`Kept as proof ${p.number}`)
  } catch (e) {
    say.fault('The proof was not kept', messageOf(e))
  }
}

/** Whether a frame is being asked for. */
const framing = ref(false)

async function exportAs(what: 'material' | 'exr' | 'png' | 'frame'): Promise<void> {
  if (what === 'frame') {
    framing.value = true
    return
  }
  try {
    if (what === 'material') {
      if (!bench.document) throw new Error('No part is picked.')
      const { writeMaterialFiles } = await import('../../files/material-files')
      const { file, bytes } = await writeMaterialFiles(bench.document, bench.materialKey ?? 'material')
      saveFile(file, bytes)
      return
    }
    const picture = stage.session?.picture()
    const loader = stage.loader()
    if (stage.region) throw new Error('A region is rendered: press R to render all of the picture, then export.')
    if (!picture || !loader) throw new Error('The first pass is not complete yet.')
    const { width, height, rgb, passes } = picture
    const name = bench.project?.name.replace(/[^A-Za-z0-9._-]+/g, '_') || 'picture'
    if (what === 'exr')
      saveFile(
        `${name}.exr`,
        await loader.exr(width, height, rgb, {
          'wavelume:passes': `1-${passes}`,
          'wavelume:seed': '0',
          'wavelume:exposure': '0',
          'wavelume:clamps': clampSays(bench.scene?.clamp),
        }),
      )
    else saveFile(`${name}.png`, await loader.png(width, height, rgb, stage.look))
  } catch (e) {
    say.fault('Nothing was exported', messageOf(e))
  }
}

function toggleTap(): void {
  if (bench.tap) {
    bench.tap = null
    return
  }
  if (bench.node !== null && bench.materialKey !== null)
    bench.tap = { material: bench.materialKey, node: bench.node }
  else say.note('Pick a node of the network first', 'E shows its output on the model.')
}
function offOrOn(): void {
  const d = bench.document
  const n = bench.node
  if (d && n !== null && !bench.layers.some(l => l.node === n)) {
    bench.edit(`${n} off or on`, x =>
      setAttribute(x, n, 'wl_off', findElement(d, n)?.attributes.wl_off === 'true' ? undefined : 'true'),
    )
    return
  }
  cross.value?.toggleSelected()
}
function removeSelected(): void {
  if (bench.node !== null) {
    network.value?.removeSelected()
    return
  }
  const l = bench.selectedLayer
  if (l && l.kind !== 'stock' && bench.edit(`Take out ${l.title}`, d => removeLayer(d, l.node)))
    bench.layer = bench.layers.at(-1)?.node ?? null
}
function nextLights(): void {
  bench.changeScene('Next lights', s => ({
    ...s,
    lights: s.rigs[(s.rigs.findIndex(r => r.name === s.lights) + 1) % s.rigs.length]!.name,
  }))
}
/** The picture alone on the whole screen, and back. */
async function fullScreen(): Promise<void> {
  try {
    await (document.fullscreenElement
      ? document.exitFullscreen()
      : document.querySelector('[data-testid=view]')!.requestFullscreen())
  } catch (e) {
    say.fault('The browser gives no full screen', messageOf(e))
  }
}
function testStrip(): void {
  if (bench.strip) bench.strip = null
  else if (bench.numberAt) bench.strip = bench.numberAt
  else say.note('Point at a number of the properties first', 'T shows it in steps.')
}
function fit(): void {
  const c = stage.cameraOn(null)
  if (c) stage.setCamera(c)
}
const undo = () => {
  const l = bench.undo()
  say.note(l ? `Undone: ${l}` : 'Nothing to undo')
}
const redo = () => {
  const l = bench.redo()
  say.note(l ? `Done again: ${l}` : 'Nothing to do again')
}

/** Makes the network large and shows all of it, or gives its pane back. */
function networkLarge(): void {
  large.value = large.value === 'network' ? 'none' : 'network'
  if (large.value === 'network') setTimeout(() => void network.value?.fit(), 220)
}

const ACTIONS: Action[] = [
  { name: 'tap', title: 'Tap: show output on the model', key: 'E', run: toggleTap },
  { name: 'keep', title: 'Keep a proof', key: 'K', run: () => void keep() },
  {
    name: 'wipe',
    title: 'Wipe still A against the live picture',
    key: 'W',
    run: () => {
      wipe.value = wipe.value === null ? 0.5 : null
    },
  },
  {
    name: 'differ',
    title: 'Difference of still A and B or the live picture',
    key: 'X',
    run: () => {
      differ.value = !differ.value
    },
  },
  { name: 'lights', title: 'Next lights', key: 'L', run: nextLights },
  {
    name: 'lens',
    title: 'Lens of the camera',
    key: 'Shift+J',
    run: () => {
      stage.lensOpen = !stage.lensOpen
    },
  },
  {
    name: 'curves',
    title: 'Curves of the layer or the stack',
    key: 'Shift+C',
    run: () => {
      stage.curvesOpen = !stage.curvesOpen
    },
  },
  {
    name: 'editLights',
    title: 'Change the light rig',
    key: 'Shift+L',
    run: () => {
      stage.lightsOpen = !stage.lightsOpen
    },
  },
  { name: 'off', title: 'Off or on: layer or node', key: 'H', run: offOrOn },
  {
    name: 'alone',
    title: 'Selected layer alone',
    key: 'A',
    run: () => {
      bench.layerAlone = bench.layerAlone === null ? bench.layer : null
    },
  },
  {
    name: 'partAlone',
    title: 'Selected part alone',
    key: 'Shift+A',
    run: () => {
      bench.partAlone = bench.partAlone === null ? bench.part : null
    },
  },
  { name: 'double', title: 'Double the selected layer', key: 'D', run: () => cross.value?.doubleSelected() },
  { name: 'fit', title: 'Fit the model into the picture', key: 'F', run: fit },
  { name: 'pause', title: 'Pause the render', key: 'P', run: () => stage.setPaused(!stage.paused) },
  {
    name: 'picture',
    title: 'Picture large',
    key: 'V',
    run: () => {
      large.value = large.value === 'view' ? 'none' : 'view'
    },
  },
  { name: 'network', title: 'Network large', key: 'N', run: networkLarge },
  { name: 'remove', title: 'Remove the selected node or layer', key: 'Delete', run: removeSelected },
  { name: 'tidy', title: 'Tidy the network', key: 'Shift+N', run: () => network.value?.tidyUp() },
  { name: 'group', title: 'Group the picked nodes', key: 'Shift+G', run: () => network.value?.groupPicked() },
  {
    name: 'ungroup',
    title: 'Take the picked group apart',
    key: 'Shift+U',
    run: () => network.value?.ungroupPicked(),
  },
  {
    name: 'open',
    title: 'Open the picked group in place, or close it',
    key: 'O',
    run: () => network.value?.openPicked(),
  },
  {
    name: 'denoise',
    title: 'Denoise the view',
    key: 'G',
    run: () => {
      stage.denoise = !stage.denoise
    },
  },
  {
    name: 'zones',
    title: 'Exposure in zones',
    key: 'Z',
    run: () => {
      stage.zones = !stage.zones
    },
  },
  { name: 'full', title: 'Full screen', key: 'Shift+V', run: () => void fullScreen() },
  {
    name: 'region',
    title: 'Render a region, or all of the picture again',
    key: 'R',
    run: () => {
      if (stage.region) stage.region = null
      else stage.aiming = stage.aiming === 'region' ? null : 'region'
    },
  },
  {
    name: 'white',
    title: 'Pick what is shown as white',
    key: 'Shift+W',
    run: () => {
      stage.aiming = stage.aiming === 'white' ? null : 'white'
    },
  },
  {
    name: 'probe',
    title: 'Pixel probe',
    key: 'I',
    run: () => {
      stage.probing = !stage.probing
    },
  },
  { name: 'strip', title: 'Test strip of the number at hand', key: 'T', run: testStrip },
  { name: 'theme', title: 'Next theme: neutral, dim, light', key: 'Shift+T', run: () => theme.next() },
  {
    name: 'frame',
    title: 'Compute a frame of full quality',
    key: 'Shift+F',
    run: () => {
      framing.value = true
    },
  },
  {
    name: 'help',
    title: 'All keys',
    key: '?',
    run: () => {
      help.value = !help.value
    },
  },
]
const keys = useKeys(ACTIONS)
provide('bench-actions', {
  add(category: string, type: string) {
    const at = network.value?.middle() ?? { x: 0, y: 0 }
    let path = ''
    const wire = network.value?.pickedWire()
    // beside the picked node where that is inside a group
    const [group] = splitPath(bench.node ?? '')
    const beside = group && bench.document ? findElement(bench.document, bench.node!)?.attributes : undefined
    if (
      bench.edit(`Add ${category}`, d => {
        const r = beside
          ? addNode(d, group, category, type, Number(beside.xpos ?? 0), Number(beside.ypos ?? 0) + 1)
          : addNode(d, '', category, type, at.x, at.y)
        path = r.path
        return wire ? insertOnWire(r.document, path, wire.target, wire.input) : r.document
      })
    )
      bench.node = path
  },
  run: (name: string) => ACTIONS.find(a => a.name === name)?.run(),
  get names() {
    return ACTIONS.map(({ name, title }) => ({ name, title, key: keys.of(name) }))
  },
})

const typing = (e: KeyboardEvent) => {
  const t = fieldOf(e)
  return t !== undefined && (t as HTMLInputElement).type !== 'range'
}
function keyDown(e: KeyboardEvent): void {
  const control = e.ctrlKey || e.metaKey
  const key = e.key.toLowerCase()
  if (keys.learning.value !== null) {
    e.preventDefault()
    const said = keys.learn(e)
    if (said) say.note(said)
    return
  }
  if (control && key === 's') {
    e.preventDefault()
    void versions.save()
    return
  }
  if (typing(e)) return
  if (control && key === 'z') {
    e.preventDefault()
    if (e.shiftKey) redo()
    else undo()
    return
  }
  if (control || e.altKey) return
  if (e.key === '/') {
    e.preventDefault()
    document.querySelector<HTMLInputElement>('[aria-label="Find or add"]')?.focus()
    return
  }
  if (key === 'b') {
    hold.value = proofs.chosen !== null
    return
  }
  if (e.key === 'Escape') {
    help.value = false
    stage.aiming = null
    wipe.value = null
    differ.value = false
    return
  }
  if (e.repeat) return
  const a = keys.find(e)
  if (a) {
    e.preventDefault()
    a.run()
  }
}
function keyUp(e: KeyboardEvent): void {
  if (e.key.toLowerCase() === 'b') hold.value = false
}

const STORE = 'wavelume-panes-2'
const panes = ref<Record<string, number[]>>(JSON.parse(localStorage.getItem(STORE) ?? 'null') ?? {})
// only a hand's arrangement is remembered, not that of one pane made large
/** Names splitters and says where they stand, for readers that cannot see them. */
function describeSplitters(): void {
  document.querySelectorAll<HTMLElement>('.splitpanes__splitter').forEach(s => {
    const before = s.previousElementSibling as HTMLElement | null
    const whole = s.parentElement
    const across = whole?.classList.contains('splitpanes--vertical')
    const share =
      before && whole
        ? across
          ? before.offsetWidth / whole.offsetWidth
          : before.offsetHeight / whole.offsetHeight
        : 0
    s.setAttribute('aria-valuenow', String(Math.round(share * 100)))
    s.setAttribute('aria-label', across ? 'Border between columns' : 'Border between panes')
  })
}
watch([ready, seen, () => large.value], () => setTimeout(describeSplitters, 300))
const resized = (name: string, e: { panes: { size: number }[] }) => {
  if (large.value !== 'none' || e.panes.some(p => p.size < 3)) return
  panes.value = { ...panes.value, [name]: e.panes.map(p => p.size) }
  localStorage.setItem(STORE, JSON.stringify(panes.value))
  describeSplitters()
}
const part = (name: string, i: number, fallback: number) => panes.value[name]?.[i] ?? fallback
</script>

<template>
  <div class="bench">
    <TopBar bench @save="versions.save($event)" @export="exportAs" />
    <SaveNotices
      :offered="versions.offered.value"
      :conflict="versions.conflict.value"
      :head="bench.project?.head ?? 0"
      @take-draft="versions.takeDraft()"
      @drop-draft="versions.dropDraft()"
      @save-over="versions.saveOver()"
      @take-theirs="versions.takeTheirs()"
    />
    <p v-if="failed" class="failed" role="alert">
      The project could not be opened: {{ failed }} <NuxtLink class="b" to="/">Back to the projects</NuxtLink>
    </p>
    <Splitpanes v-if="!failed && ready" class="main" role="main" @resized="resized('columns', $event)">
      <Pane :size="large === 'none' ? part('columns', 0, 10.3) : 0" :min-size="large === 'none' ? 8 : 0">
        <Splitpanes horizontal @resized="resized('left', $event)">
          <Pane :size="part('left', 0, 52)" min-size="15">
            <PartsPane ref="parts" />
          </Pane>
          <Pane :size="part('left', 1, 48)" min-size="10">
            <ProofsPane @keep="keep" @wipe="wipe = wipe === null ? 0.5 : null" @difference="differ = !differ" />
          </Pane>
        </Splitpanes>
      </Pane>
      <Pane :size="large === 'none' ? part('columns', 1, 64.7) : 100" min-size="30">
        <Splitpanes horizontal @resized="resized('middle', $event)">
          <Pane :size="large === 'view' ? 100 : large === 'network' ? 30 : part('middle', 0, 70)" min-size="15">
            <div class="pane">
              <ViewPane
                ref="view"
                v-model:section="section"
                :wipe="wipe"
                :hold="hold"
                :differ="differ ? differs : null"
                @wipe="wipe = $event"
                @size="
                  (w, h) => {
                    size.width = w
                    size.height = h
                  }
                "
                @drop="(name, e) => parts?.drop(e, name)"
              />
              <TitleStrip :width="size.width" :height="size.height" />
            </div>
          </Pane>
          <Pane
            :size="large === 'view' ? 0 : large === 'network' ? 70 : part('middle', 1, 30)"
            :min-size="large === 'view' ? 0 : 12"
          >
            <NetworkPane v-if="seen" ref="network" />
          </Pane>
        </Splitpanes>
      </Pane>
      <Pane :size="large === 'none' ? part('columns', 2, 25) : 0" :min-size="large === 'none' ? 16 : 0">
        <Splitpanes horizontal @resized="resized('right', $event)">
          <Pane :size="part('right', 0, 52)" min-size="15">
            <CrossSection ref="cross" :rays="section" />
          </Pane>
          <Pane :size="part('right', 1, 48)" min-size="15">
            <PropertiesPane />
          </Pane>
        </Splitpanes>
      </Pane>
    </Splitpanes>
    <p v-if="!failed && !ready" class="failed" role="status">Opening the project …</p>
    <FrameDialog v-if="framing" :width="size.width" :height="size.height" @close="framing = false" />
    <KeysDialog
      v-if="help"
      :actions="ACTIONS"
      :keys="keys"
      @close="
        help = false
        keys.teach(null)
      "
    />
  </div>
</template>

<style scoped>
.bench {
  height: 100vh;
  display: flex;
  flex-direction: column;
  min-width: 900px;
}
.main {
  flex: 1;
  min-height: 0;
}
.failed {
  padding: 20px;
}
</style>
