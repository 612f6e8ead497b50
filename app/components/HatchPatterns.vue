<!-- Hatches mean matter: metal, glass, polymer, powder. -->
<template>
  <defs>
    <pattern id="h-metal" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="9" />
    </pattern>
    <pattern id="h-glass" width="16" height="16" patternUnits="userSpaceOnUse">
      <path d="M2 7 l5 -5 M4 9 l5 -5 M10 15 l5 -5" />
    </pattern>
    <pattern id="h-polymer" width="12" height="10" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
      <path d="M0 2 h6 M6 7 h6" />
    </pattern>
    <pattern id="h-powder" width="7" height="7" patternUnits="userSpaceOnUse">
      <circle cx="2" cy="2" r=".9" />
      <circle cx="5.5" cy="5.5" r=".9" />
    </pattern>
  </defs>
</template>

<style scoped>
pattern line,
pattern path {
  stroke: var(--ink);
  stroke-width: 1;
  fill: none;
}
pattern circle {
  fill: var(--ink);
}
</style>
