<script setup lang="ts">
useTheme()
const canRender = crossOriginIsolated
</script>

<template>
  <UApp :toaster="null">
    <template v-if="canRender">
      <NuxtPage />
      <SaidList />
    </template>
    <InsecureNotice v-else />
  </UApp>
</template>
