<script setup lang="ts">
import { specimens } from '../../core/network/specimens'
import { starters } from '../../core/network/starters'
import { compileMaterial } from '../../core/world/compile-material'
import { linesByAngle, linesByWavelength } from '../curves/curve-lines'

/**
 * Where things to take from are kept: starters by class of material, and measured specimens with their sources and
 * curves.
 */
const tintOf = useSpecimenTints()
const tab = ref<'measured' | 'starters'>('measured')
const TABS = [
  { value: 'measured', label: 'Measured' },
  { value: 'starters', label: 'Starters' },
]
const search = ref('')
const picked = ref(specimens[1]!.key)
const found = computed(() =>
  specimens.filter(s =>
    `${s.title} ${s.class} ${s.source}`.toLowerCase().includes(search.value.trim().toLowerCase()),
  ),
)
const classes = computed(() =>
  [...new Set(found.value.map(s => s.class))].map(c => ({ class: c, of: found.value.filter(s => s.class === c) })),
)
const at = computed(() => specimens.find(s => s.key === picked.value)!)
const program = computed(() => compileMaterial(at.value.make()))
const { curves, fault } = useCurves(
  () => program.value,
  () => 0,
)
const byWavelength = computed(() => linesByWavelength(curves.value))
const byAngle = computed(() => linesByAngle(curves.value, 'solid', false))
</script>

<template>
  <div class="u-page">
    <TopBar at="library" />
    <main>
      <div class="top">
        <h1>Library</h1>
        <UTabs v-model="tab" aria-label="Kinds" variant="link" :content="false" :items="TABS" />
        <UInput
          v-if="tab === 'measured'"
          v-model="search"
          type="search"
          placeholder="Search specimens"
          aria-label="Search specimens"
        />
      </div>
      <p class="small">
        On the bench, “Material of …” under the parts puts any of these on the part that is picked.
      </p>
      <div v-if="tab === 'measured'" class="two">
        <div class="list">
          <p v-if="!found.length">No specimen is called that.</p>
          <section v-for="c in classes" :key="c.class">
            <h2>{{ c.class }}</h2>
            <UButton
              v-for="s in c.of"
              :key="s.key"
              class="specimen"
              :class="{ at: s.key === picked }"
              :aria-pressed="s.key === picked"
              :data-specimen="s.key"
              @click="void (picked = s.key)"
            >
              <i :style="{ background: tintOf.get(s.key) }" />
              <b>{{ s.title }}</b>
              <span class="small">{{ s.source }}</span>
            </UButton>
          </section>
        </div>
        <section class="shown" :aria-label="`Curves of ${at.title}`">
          <h2>{{ at.title }}</h2>
          <p class="small">{{ at.source }}</p>
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
      <ul v-else class="starters">
        <li v-for="s in starters" :key="s.key">
          <i :style="{ background: tintOf.get(s.key) }" />
          <b>{{ s.title }}</b>
        </li>
      </ul>
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
}
.top > div {
  display: flex;
  gap: 4px;
}
.two {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(340px, 1fr) minmax(320px, 1fr);
  gap: 20px;
}
.list {
  overflow-y: auto;
  min-height: 0;
  scrollbar-width: thin;
  scrollbar-color: var(--rule) transparent;
}
h2 {
  margin: 8px 0 3px;
  font-size: 14px;
  font-weight: 600;
}
.b.specimen {
  width: 100%;
  display: grid;
  grid-template-columns: 22px 190px 1fr;
  gap: 9px;
  align-items: center;
  text-align: left;
  min-height: 30px;
  padding: 2px 6px;
  border: 2px solid transparent;
  border-bottom: 1px solid var(--rule);
}
.b.specimen.at {
  border: 2px solid var(--accent);
  background: var(--raised);
}
.specimen b,
.specimen span {
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.specimen i,
.starters i {
  width: 20px;
  height: 20px;
  border: 1px solid var(--ink);
  display: block;
}
.shown {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border: 1px solid var(--ink);
  background: var(--raised);
  padding: 4px 12px 10px;
}
figure {
  flex: 1;
  min-height: 0;
  margin: 6px 0 0;
  display: flex;
  flex-direction: column;
}
.starters {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 6px;
}
.starters li {
  display: flex;
  gap: 9px;
  align-items: center;
  border: 1px solid var(--rule);
  background: var(--raised);
  padding: 6px 9px;
}
</style>
