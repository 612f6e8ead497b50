<script setup lang="ts">
/** Shows one light of the rig alone, by its number. */
const props = defineProps<{ light: number; of: string }>()
const stage = useStage()
const on = computed(() => stage.lightAlone === props.light)
const toggle = (): void => void (stage.lightAlone = on.value ? null : props.light)
</script>

<template>
  <UButton
    variant="ghost"
    class="alone"
    :aria-pressed="on"
    :aria-label="`Show ${of} alone`"
    :title="on ? 'Show all lights' : `Show ${of} alone`"
    @click="toggle"
  >
    alone
  </UButton>
</template>

<style scoped>
.alone {
  font-size: 11px;
  min-height: 24px;
  padding: 0 4px;
}
.b.alone[aria-pressed='true'],
.b.alone[aria-pressed='true']:hover {
  background: var(--ink);
  color: var(--paper);
}
</style>
