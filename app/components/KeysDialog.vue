<script setup lang="ts">
import type { Action, useKeys } from '../composables/useKeys'

/** All keys of the bench; those of actions can be changed. */
defineProps<{ actions: readonly Action[]; keys: ReturnType<typeof useKeys> }>()
const emit = defineEmits<{ close: [] }>()
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
                {{ keys.learning.value === a.name ? 'press a key' : keys.of(a.name) }}
              </UButton>
            </td>
            <td>{{ a.title }}</td>
          </tr>
          <tr>
            <td>B</td>
            <td>Hold to see still A</td>
          </tr>
          <tr>
            <td>/</td>
            <td>Find or add</td>
          </tr>
          <tr>
            <td>Ctrl+Z</td>
            <td>Undo; with Shift do again</td>
          </tr>
          <tr>
            <td>Ctrl+S</td>
            <td>Save a version</td>
          </tr>
          <tr>
            <td>Ctrl+C, X, V</td>
            <td>Copy, cut and paste nodes as MaterialX text</td>
          </tr>
          <tr>
            <td>drag</td>
            <td>
              Turn the view; Shift: move, wheel: nearer, Ctrl: turn the lights, Alt: turn the model before camera
              and lights
            </td>
          </tr>
          <tr>
            <td>arrows</td>
            <td>Walk the network</td>
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
