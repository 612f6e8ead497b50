<script setup lang="ts">
useTheme()
</script>

<template>
  <UApp :toaster="null">
    <NuxtPage />
    <SaidList />
  </UApp>
</template>
