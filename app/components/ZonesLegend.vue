<script setup lang="ts">
import { ZONE_FIRST, ZONES } from '../../core/render/zones'
</script>

<template>
  <ul class="zones" aria-label="Zones, stops from 18 %">
    <li v-for="(c, i) in ZONES" :key="i">
      <i :style="{ background: `rgb(${c.join()})` }" />{{ i === 0 ? '≤ ' : i === ZONES.length - 1 ? '≥ ' : ''
      }}{{ i + ZONE_FIRST > 0 ? '+' : i + ZONE_FIRST < 0 ? '−' : '' }}{{ Math.abs(i + ZONE_FIRST) }}
    </li>
  </ul>
</template>

<style scoped>
.zones {
  position: absolute;
  right: 6px;
  top: 6px;
  margin: 0;
  padding: 3px 7px;
  list-style: none;
  background: var(--raised);
  border: 1px solid var(--rule);
  font-size: 12px;
  pointer-events: none;
}
.zones li {
  display: flex;
  align-items: center;
  gap: 6px;
  line-height: 17px;
}
.zones i {
  width: 18px;
  height: 12px;
  border: 1px solid var(--ink);
}
</style>
