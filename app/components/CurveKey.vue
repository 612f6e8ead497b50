<script setup lang="ts">
import { COMPONENTS } from '../curves/curve-lines'
</script>

<template>
  <span v-for="[name, colour] in COMPONENTS" :key="name" class="key">
    <i :style="{ background: `var(${colour})` }" />{{ name }}</span
  >
</template>

<style scoped>
.key {
  margin-right: 8px;
}
.key i {
  display: inline-block;
  width: 12px;
  height: 3px;
  margin-right: 3px;
  vertical-align: middle;
}
</style>
