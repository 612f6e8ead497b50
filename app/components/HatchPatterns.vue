<script setup lang="ts">
/** Hatches mean matter: metal, glass, polymer, powder. In the chrome's ink, and in what stands out on a true colour. */
const INKS = [
  { name: '', colour: 'var(--ink)' },
  { name: '-dark', colour: '#0e0e0e' },
  { name: '-bright', colour: '#f0f0f0' },
]
</script>

<template>
  <defs>
    <template v-for="ink in INKS" :key="ink.name">
      <pattern
        :id="`h-metal${ink.name}`"
        width="9"
        height="9"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <line x1="0" y1="0" x2="0" y2="9" :stroke="ink.colour" />
      </pattern>
      <pattern :id="`h-glass${ink.name}`" width="16" height="16" patternUnits="userSpaceOnUse">
        <path d="M2 7 l5 -5 M4 9 l5 -5 M10 15 l5 -5" :stroke="ink.colour" />
      </pattern>
      <pattern
        :id="`h-polymer${ink.name}`"
        width="12"
        height="10"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(35)"
      >
        <path d="M0 2 h6 M6 7 h6" :stroke="ink.colour" />
      </pattern>
      <pattern :id="`h-powder${ink.name}`" width="7" height="7" patternUnits="userSpaceOnUse">
        <circle cx="2" cy="2" r=".9" :fill="ink.colour" />
        <circle cx="5.5" cy="5.5" r=".9" :fill="ink.colour" />
      </pattern>
    </template>
  </defs>
</template>

<style scoped>
pattern line,
pattern path {
  stroke-width: 1;
  fill: none;
}
</style>
