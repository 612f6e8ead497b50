<script setup lang="ts">
import type { Action, useKeys } from '../composables/useKeys'

/** All keys of the bench; those of actions can be changed. */
defineProps<{ actions: readonly Action[]; keys: ReturnType<typeof useKeys> }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <div class="keys" role="dialog" aria-label="Keys">
    <div class="head">
      <b>Keys</b>
      <span>
        <button v-if="keys.changed.value" class="b" @click="keys.reset()">As they came</button>
        {{ ' ' }}
        <button class="q" aria-label="Close" @click="emit('close')">×</button>
      </span>
    </div>
    <div class="scroll">
      <table>
        <tbody>
          <tr v-for="a in actions" :key="a.name">
            <td>
              <button
                class="b"
                :aria-label="`Change the key of: ${a.title}`"
                :aria-pressed="keys.learning.value === a.name"
                @click="keys.teach(a.name)"
              >
                {{ keys.learning.value === a.name ? 'press a key' : keys.of(a.name) }}
              </button>
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
  </div>
</template>

<style scoped>
.keys {
  position: fixed;
  z-index: 40;
  left: 50%;
  top: 50px;
  bottom: 30px;
  transform: translateX(-50%);
  width: 480px;
  display: flex;
  flex-direction: column;
  background: var(--raised);
  border: 1px solid var(--ink);
  padding-bottom: 8px;
}
.keys td {
  padding: 1px 12px;
}
.keys td:first-child {
  font-weight: 600;
  width: 110px;
}
</style>
