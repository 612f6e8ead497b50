<script setup lang="ts">
import { specimens } from '../../core/network/specimens'
import { starters } from '../../core/network/starters'
import { compileMaterial } from '../../core/world/compile-material'
import type { SpecimenUses } from '../../shared/api'
import { linesByAngle, linesByWavelength } from '../curves/curve-lines'

/**
 * Where things to take from are kept: starters by class of material, and measured specimens with their sources and
 * curves.
 */
const tintOf = useSpecimenTints()
const uses = shallowRef<SpecimenUses>({})
onMounted(async () => {
  // what uses a specimen is beside the point of the page: without an answer it is left out
  uses.value = await api.specimenUses().catch(() => ({}))
})
const tab = ref<'measured' | 'starters'>('measured')
const TABS = [
  { value: 'measured', label: 'Measured' },
  { value: 'starters', label: 'Starters' },
]
const search = ref('')
const picked = ref(specimens[1]!.key)
const rows = computed(() => {
  const all =
    tab.value === 'measured'
      ? specimens
      : starters.map(s => ({ ...s, class: 'Starters', source: 'ours, to begin with' }))
  const words = search.value.trim().toLowerCase().split(/\s+/)
  return all.filter(s => words.every(w => `${s.title} ${s.class} ${s.source}`.toLowerCase().includes(w)))
})
const at = computed(() => [...specimens, ...starters].find(s => s.key === picked.value)!)
watch(tab, t => {
  picked.value = t === 'measured' ? specimens[1]!.key : starters[0]!.key
})
const program = computed(() => compileMaterial(at.value.make()))
const { curves, fault } = useCurves(
  () => program.value,
  () => 0,
)
const byWavelength = computed(() => linesByWavelength(curves.value))
const byAngle = computed(() => linesByAngle(curves.value, 'solid', false))
const usedBy = computed(() => uses.value[picked.value] ?? [])
</script>

<template>
  <div class="u-page">
    <TopBar at="library" />
    <main>
      <div class="top">
        <h1>Library</h1>
        <UTabs v-model="tab" aria-label="Kinds" variant="link" :content="false" :items="TABS" />
        <UInput
          v-model="search"
          type="search"
          :placeholder="tab === 'measured' ? 'Search specimens' : 'Search starters'"
          :aria-label="tab === 'measured' ? 'Search specimens' : 'Search starters'"
        />
        <span class="small">“Material of …” under the parts of the bench puts any of these on a part.</span>
      </div>
      <div class="two">
        <SpecimenTable :rows="rows" :tints="tintOf" :uses="uses" :picked="picked" @pick="picked = $event" />
        <section class="shown" :aria-label="`Curves of ${at.title}`">
          <h2>{{ at.title }}</h2>
          <p class="small">
            {{ 'source' in at ? at.source : 'A first version of a class of material; its maps as at the origin.' }}
          </p>
          <p v-if="usedBy.length" class="small" data-testid="used-by">
            Used by
            <template v-for="(u, i) in usedBy" :key="u.project + u.material"
              >{{ i ? ', ' : ''
              }}<NuxtLink :to="`/bench/${u.project}`">{{ u.name }}: {{ u.material }}</NuxtLink></template
            >
          </p>
          <p v-if="fault" role="alert">{{ fault }}</p>
          <figure>
            <figcaption class="small">back (full) and through (dotted) against wavelength, head-on</figcaption>
            <CurveChart
              label="Reflectance against wavelength"
              :lines="byWavelength"
              :x="{ name: 'nm', low: 380, high: 780 }"
            />
          </figure>
          <figure>
            <figcaption class="small">back against angle: <CurveKey /></figcaption>
            <CurveChart
              label="Reflectance against angle of incidence"
              :lines="byAngle"
              :x="{ name: 'degrees', low: 0, high: 90 }"
            />
          </figure>
        </section>
      </div>
    </main>
  </div>
</template>

<style scoped>
main {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.top {
  display: flex;
  align-items: center;
  gap: 14px;
  padding-bottom: 12px;
}
.two {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(340px, 1fr) minmax(320px, 1fr);
  gap: 20px;
}
h2 {
  margin: 8px 0 3px;
  font-size: 14px;
  font-weight: 600;
}
.shown {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border: 1px solid var(--ink);
  background: var(--raised);
  padding: 4px 12px 10px;
}
.shown p {
  margin: 2px 0;
}
.shown a {
  text-decoration: underline;
}
figure {
  flex: 1;
  min-height: 0;
  margin: 6px 0 0;
  display: flex;
  flex-direction: column;
}
</style>
