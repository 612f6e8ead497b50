<script setup lang="ts">
useTheme()
</script>

<template>
  <UApp :toaster="{ position: 'bottom-center', expand: true }">
    <NuxtPage />
  </UApp>
</template>
