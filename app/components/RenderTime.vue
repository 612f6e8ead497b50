<script setup lang="ts">
/** How long the picture is computed already. */
const stage = useStage()
const now = ref(Date.now())
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => {
  timer = setInterval(() => {
    now.value = Date.now()
  }, 500)
})
onBeforeUnmount(() => clearInterval(timer))
const time = computed(() => {
  const s = Math.max(0, Math.round((now.value - stage.rates.started) / 1000))
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
})
</script>

<template>{{ time }}</template>
