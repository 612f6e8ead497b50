<script setup lang="ts">
import type { Said } from '../composables/useSay'

/** What was said last, at the foot of the page. */
const { said, unsay } = useSay()
/** Does what is offered. */
function take({ id, offer }: Said): void {
  offer?.run()
  unsay(id)
}
</script>

<template>
  <div class="said" aria-live="polite">
    <div
      v-for="s in said"
      :key="s.id"
      class="one"
      :class="{ kept: s.urgent || s.lines }"
      :role="s.urgent ? 'alert' : 'status'"
    >
      <UIcon v-if="s.urgent" name="i-lucide-triangle-alert" class="sign" />
      <div class="text">
        <b>{{ s.title }}</b>
        <div v-if="s.description" class="small">{{ s.description }}</div>
        <ul v-if="s.lines" class="small lines" tabindex="0" :aria-label="s.title">
          <li v-for="(line, i) in s.lines" :key="i">{{ line }}</li>
        </ul>
      </div>
      <UButton v-if="s.offer" @click="take(s)">
        {{ s.offer.label }}
      </UButton>
      <UButton variant="ghost" aria-label="Close" @click="unsay(s.id)">×</UButton>
    </div>
  </div>
</template>

<style scoped>
.said {
  position: fixed;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  display: grid;
  gap: 6px;
  width: min(400px, calc(100vw - 40px));
  z-index: 60;
  pointer-events: none;
}
.one {
  display: flex;
  align-items: flex-start;
  gap: 9px;
  padding: 8px 8px 8px 12px;
  background: var(--raised);
  border: 1px solid var(--ink);
}
/* what goes by itself lies in no hand's way; what is to be read, and copied, can be marked */
.kept,
.one .b {
  pointer-events: auto;
}
.text {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.lines {
  max-height: 9em;
  overflow-y: auto;
  padding-left: 14px;
  list-style: square;
}
.sign {
  margin-top: 2px;
  flex: none;
}
</style>
