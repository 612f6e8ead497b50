<script setup lang="ts">
import type { Action, useKeys } from '../composables/useKeys'

/** All keys of the bench; those of actions can be changed. */
defineProps<{ actions: readonly Action[]; keys: ReturnType<typeof useKeys> }>()
const emit = defineEmits<{ close: [] }>()
/** Keys that stay as they are. */
const FIXED = [
  { keys: ['B'], says: 'Hold to see still A' },
  { keys: ['Ctrl', 'Z'], says: 'Undo; with Shift do again' },
  { keys: ['Ctrl', 'S'], says: 'Save a version' },
  { keys: ['Ctrl', 'C', 'X', 'V'], says: 'Copy, cut and paste nodes as MaterialX text' },
  {
    keys: ['drag'],
    says:
      'Turn the view; Shift: move, wheel: nearer, Ctrl or the right button: turn the lights, Alt: turn the model ' +
      'before camera and lights',
  },
  { keys: ['arrows'], says: 'Walk the network' },
]
</script>

<template>
  <PlainDialog title="Keys" description="All keys of the bench" place="keys-dialog" @close="emit('close')">
    <template #head>
      <UButton v-if="keys.changed.value" @click="keys.reset()">As they came</UButton>
      {{ ' ' }}
    </template>
    <div class="scroll">
      <table>
        <tbody>
          <tr v-for="a in actions" :key="a.name">
            <td>
              <UButton
                :aria-label="`Change the key of: ${a.title}`"
                :aria-pressed="keys.learning.value === a.name"
                @click="keys.teach(a.name)"
              >
                {{ keys.learning.value === a.name ? 'press a key' : '' }}
                <UKbd v-if="keys.learning.value !== a.name" :value="keys.of(a.name)" />
              </UButton>
            </td>
            <td>{{ a.title }}</td>
          </tr>
          <tr v-for="k in FIXED" :key="k.says">
            <td>
              <template v-for="(sign, i) in k.keys" :key="sign">{{ i ? ' ' : '' }}<UKbd :value="sign" /></template>
            </td>
            <td>{{ k.says }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </PlainDialog>
</template>

<style>
.keys-dialog {
  z-index: 40;
  top: 50px;
  bottom: 30px;
  translate: -50% 0;
  width: 480px;
  max-height: none;
  display: flex;
  flex-direction: column;
  padding-bottom: 8px;
}
.keys-dialog td {
  padding: 1px 12px;
}
.keys-dialog td:first-child {
  font-weight: 600;
  width: 110px;
}
</style>
