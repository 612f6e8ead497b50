<script setup lang="ts">
import { canMend, mend } from '../../core/checks'
import type { Finding } from '../../core/checks/finding'

/** What the checks found in the materials of this project, each with what would mend it. */
const bench = useBench()
const open = ref(false)
const count = computed(() => bench.allChecks.filter(c => c.finding.severity !== 'info').length)
const SIGN = { error: '✕', warning: '!', info: 'i' }
/** Goes to the part that wears the material, and to the node. */
function go(material: string, f: Finding): void {
  open.value = false
  if (bench.scene?.parts.some(p => p.name === f.where)) {
    bench.selectPart(f.where)
    return
  }
  const part = bench.scene?.parts.find(p => p.material === material)
  if (part && bench.materialKey !== material) bench.selectPart(part.name)
  const layer = bench.layers.find(l => l.node === f.where || l.surface === f.where)
  if (layer) {
    bench.layer = layer.node
    bench.node = null
  } else bench.node = f.where.split('/')[0] ?? null
}
const fix = (material: string, f: Finding): void => void bench.edit(f.fix, d => mend(d, f), undefined, material)
</script>

<template>
  <UPopover v-model:open="open" :content="{ align: 'start', sideOffset: 2 }">
    <UButton variant="ghost" class="tab" :class="{ at: open }" data-testid="checks">
      Checks<template v-if="count"> · {{ count }}</template>
    </UButton>
    <template #content>
      <div class="checks found">
        <p v-if="!bench.allChecks.length" class="small pad">Nothing was found in the materials that parts wear.</p>
        <ul v-else>
          <li
            v-for="c in bench.allChecks"
            :key="c.material + c.finding.rule + c.finding.where + c.finding.message"
          >
            <span class="sign" role="img" :aria-label="c.finding.severity">{{ SIGN[c.finding.severity] }}</span>
            <div>
              <b>{{ c.material }}</b> <span class="small">{{ c.finding.rule }}</span>
              <div>{{ c.finding.message }}</div>
              <span class="do">
                <UButton
                  v-if="canMend(bench.state!.materials[c.material]!, c.finding)"
                  @click="fix(c.material, c.finding)"
                >
                  {{ c.finding.fix }}
                </UButton>
                <span v-else class="small">{{ c.finding.fix }}</span>
                <UButton @click="go(c.material, c.finding)">Show</UButton>
              </span>
            </div>
          </li>
        </ul>
      </div>
    </template>
  </UPopover>
</template>

<style scoped>
.checks {
  width: 400px;
}
.b.q.tab {
  padding: 3px 10px;
  border: 1px solid transparent;
  min-height: 0;
  white-space: nowrap;
}
.b.q.tab.at {
  border-color: var(--ink);
  background: var(--raised);
  font-weight: 600;
}
.sign {
  border: 1px solid var(--ink);
  background: var(--light);
  font-weight: 600;
  width: 18px;
  height: 18px;
  line-height: 16px;
  text-align: center;
  flex: none;
}
</style>
