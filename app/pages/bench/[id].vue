<script setup lang="ts">
import { useDrops } from '../../bench/useDrops'
import { Pane, Splitpanes } from 'splitpanes'
import { addToNetwork } from '../../bench/add-node'
import { DOING } from '../../bench/doing'
import { useBenchActions, type NetworkActions } from '../../bench/useBenchActions'
import { useBenchKeys } from '../../bench/useBenchKeys'
import { useExports } from '../../bench/useExports'
import { usePanes } from '../../bench/usePanes'
import { useStills } from '../../bench/useStills'
import CrossSection from '../../components/CrossSection.vue'
import TopBar from '../../components/TopBar.vue'
import ViewPane from '../../components/ViewPane.vue'

// the graph canvas is large: it is fetched while the first picture is computed
const NetworkPane = defineAsyncComponent(() => import('../../components/NetworkPane.vue'))
/** Longest that the panes wait for the first picture, ms. */
const PATIENCE = 1500
const bench = useBench()
const stage = useStage()
const proofs = useProofs()
const id = String(useRoute().params.id)
const ready = computed(() => bench.state !== null)
const failed = ref('')
const versions = useVersions()
useChecks()

const view = ref<InstanceType<typeof ViewPane>>()
const network = ref<NetworkActions>()
const cross = ref<InstanceType<typeof CrossSection>>()
const parts = ref<{ drop(e: DragEvent, name: string): void }>()
const size = reactive({ width: 760, height: 475 })
const section = { rays: shallowRef<Float64Array | null>(null) }
const framing = ref(false)
const help = ref(false)
const finding = ref(false)
/** Whether a first picture stands: the panes about it come after it, and then the network. */
const seen = ref(false)
watch(
  () => stage.drawn,
  d => {
    if (d) seen.value = true
  },
)
onMounted(() =>
  setTimeout(() => {
    seen.value = true
  }, PATIENCE),
)

const surrounded = ref(false)
watch(
  seen,
  () =>
    requestAnimationFrame(() => {
      surrounded.value = true
    }),
  { flush: 'post' },
)

bench.state = null
const opening = stage.open(id)
onMounted(async () => {
  try {
    bench.open(await opening)
    await proofs.open(id)
    await versions.drafts.look()
  } catch (e) {
    failed.value = messageOf(e)
  }
})
onBeforeUnmount(() => stage.stop())
const leaving = (e: BeforeUnloadEvent) => {
  if (bench.dirty) e.preventDefault()
}
onMounted(() => addEventListener('beforeunload', leaving))
onBeforeUnmount(() => removeEventListener('beforeunload', leaving))

const stills = useStills(view, size)
const { wipe, hold, differ, differs, keep, toggleWipe } = stills
const { large, middle, part, resized } = usePanes([ready, seen, surrounded])
const { exportAs } = useExports()
const held = useDrops((x, y) => network.value?.cellsAt(x, y) ?? { x: 0, y: 0 })
function exportOrFrame(what: 'material' | 'exr' | 'png' | 'frame'): void {
  if (what === 'frame') framing.value = true
  else void exportAs(what)
}
const panes = { cross, network, large, framing, help, finding }
const { actions, undo, redo } = useBenchActions(panes, stills)
const keys = useBenchKeys(panes, stills, actions, { undo, redo, save: () => void versions.save() })
provide(DOING, {
  add: (category: string) => addToNetwork(network.value, category),
  show(node: string) {
    bench.node = node
    network.value?.show(node)
  },
  run: (name: string) => actions.find(a => a.name === name)?.run(),
  get names() {
    return actions.map(({ name, title }) => ({ name, title, key: keys.of(name) }))
  },
})
function closeKeys(): void {
  help.value = false
  keys.teach(null)
}
</script>

<template>
  <div class="bench">
    <TopBar v-model:finding="finding" bench @save="versions.save($event)" @export="exportOrFrame" />
    <SaveNotices :versions="versions" />
    <p v-if="failed" class="failed" role="alert">
      The project could not be opened: {{ failed }} <NuxtLink class="b" to="/">Back to the projects</NuxtLink>
    </p>
    <Splitpanes v-if="!failed && ready" class="main" role="main" @resized="resized('columns', $event)">
      <Pane :size="large === 'none' ? part('columns', 0, 10.3) : 0" :min-size="large === 'none' ? 8 : 0">
        <Splitpanes horizontal @resized="resized('left', $event)">
          <Pane :size="part('left', 0, 52)" min-size="15">
            <PartsPane v-if="seen" ref="parts" />
          </Pane>
          <Pane :size="part('left', 1, 48)" min-size="10">
            <ProofsPane v-if="seen" @keep="keep" @wipe="toggleWipe" @difference="differ = !differ" />
          </Pane>
        </Splitpanes>
      </Pane>
      <Pane :size="middle" min-size="30">
        <Splitpanes horizontal @resized="resized('middle', $event)">
          <Pane :size="large === 'view' ? 100 : large === 'network' ? 30 : part('middle', 0, 70)" min-size="15">
            <div class="pane">
              <ViewPane
                ref="view"
                :section="section"
                :wipe="wipe"
                :hold="hold"
                :differ="differ ? differs : null"
                @wipe="wipe = $event"
                @size="(width, height) => Object.assign(size, { width, height })"
                @drop="(name, e) => parts?.drop(e, name)"
              />
              <TitleStrip :width="size.width" :height="size.height" />
            </div>
          </Pane>
          <Pane
            :size="large === 'view' ? 0 : large === 'network' ? 70 : part('middle', 1, 30)"
            :min-size="large === 'view' ? 0 : 12"
          >
            <NetworkPane v-if="surrounded" ref="network" @find="finding = true" />
          </Pane>
        </Splitpanes>
      </Pane>
      <Pane :size="large === 'view' ? 0 : part('columns', 2, 25)" :min-size="large === 'view' ? 0 : 16">
        <Splitpanes horizontal @resized="resized('right', $event)">
          <Pane :size="part('right', 0, 52)" min-size="15">
            <CrossSection v-if="seen" ref="cross" :section="section" />
          </Pane>
          <Pane :size="part('right', 1, 48)" min-size="15">
            <PropertiesPane v-if="seen" />
          </Pane>
        </Splitpanes>
      </Pane>
    </Splitpanes>
    <p v-if="!failed && !ready" class="failed" role="status">Opening the project …</p>
    <LazyFrameDialog v-if="framing" :width="size.width" :height="size.height" @close="framing = false" />
    <div v-if="held" class="held" role="status">{{ held }}</div>
    <LazyKeysDialog v-if="help" :actions="actions" :keys="keys" @close="closeKeys" />
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
/* what takes the files that are held over the page */
.held {
  position: fixed;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  z-index: 60;
  padding: 6px 12px;
  background: var(--raised);
  border: 1px solid var(--ink);
  pointer-events: none;
}
</style>
