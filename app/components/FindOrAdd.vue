<script setup lang="ts">
import { DOING } from '../bench/doing'
import { hitsFor, type Hit } from '../words/hits'

/** Finds parts, materials, nodes and actions; adds nodes of any kind. */
const open = defineModel<boolean>('open', { required: true })
const bench = useBench()
const stage = useStage()
const text = ref('')
// fetched once the picture stands: what is typed first must not wait for it
const load = () => import('./FoundPalette.vue')
const Palette = defineAsyncComponent(load)
watch(
  () => stage.drawn !== null,
  on => void (on && load()),
)
/** What is typed before the field has the focus belongs to it, and is no key of the bench. */
function catchKey(e: KeyboardEvent): void {
  const inside = document.querySelector('.palette')?.contains(document.activeElement)
  if (inside || (e.key.length > 1 && e.key !== 'Enter') || e.ctrlKey || e.metaKey || e.altKey) return
  e.preventDefault()
  e.stopPropagation()
  const best = found.value.at(0)?.hits.at(0)
  if (e.key !== 'Enter') text.value += e.key
  else if (text.value && best) run(best)
}
const actions = inject(DOING)!
/** Whether the choice gives the focus elsewhere. */
let chose = false

function run(hit: Hit): void {
  chose = true
  open.value = false
  switch (hit.kind) {
    case 'add':
      actions.add(hit.name)
      break
    case 'node':
      actions.show(hit.name)
      break
    case 'part':
      bench.selectPart(hit.name)
      break
    case 'material':
      if (bench.part !== null) bench.assign(bench.part, hit.name)
      break
    case 'action':
      actions.run(hit.name)
  }
}
const found = computed(() => (open.value ? hitsFor(text.value, bench, actions.names) : []))
// at once: the next key may come before the page is drawn
watch(
  open,
  on => {
    if (on) {
      chose = false
      addEventListener('keydown', catchKey, true)
    } else {
      text.value = ''
      if (!chose) bench.loose = null
      removeEventListener('keydown', catchKey, true)
    }
  },
  { flush: 'sync' },
)
onBeforeUnmount(() => removeEventListener('keydown', catchKey, true))
/** What was chosen may have opened something that wants the focus; otherwise the field has it again. */
const content = {
  align: 'end' as const,
  sideOffset: 2,
  onCloseAutoFocus: (e: Event) => {
    if (chose) e.preventDefault()
  },
}
</script>

<template>
  <UPopover v-model:open="open" :content="content">
    <UButton class="find" aria-label="Find or add" title="Find or add (/)" data-testid="find">
      <span>Find or add …</span>
      <UKbd value="/" />
    </UButton>
    <template #content>
      <Palette v-model:text="text" :found="found" @choose="run" />
    </template>
  </UPopover>
</template>

<style>
.b.find {
  width: 200px;
  flex: none;
  justify-content: space-between;
  color: var(--soft);
}
</style>
