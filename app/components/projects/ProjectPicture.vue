<script setup lang="ts">
import type { ProjectSummary } from '../../../shared/api'

/** Picture of a project, or how far the one is that a worker makes. */
defineProps<{ project: ProjectSummary }>()
</script>

<template>
  <span class="pic">
    <img v-if="project.thumbnail" :src="`/api/assets/${project.thumbnail}`" alt="" />
    <span v-else-if="project.still" class="coming">
      <UProgress
        :model-value="project.still.passes"
        :max="project.still.of"
        :get-value-label="() => `Picture of ${project.name}`"
      />
      <span class="said">{{
        project.still.passes
          ? `picture: ${project.still.passes} of ${project.still.of} samples`
          : 'picture waits for a worker'
      }}</span>
    </span>
    <span v-else class="coming" aria-hidden="true"
      ><span class="said">no picture yet: saving makes one</span></span
    >
  </span>
</template>

<style scoped>
.pic {
  aspect-ratio: 8 / 5;
  background: var(--ground);
  display: block;
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.coming {
  height: 100%;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 6px;
}
.coming :deep(.progress-part) {
  width: 60%;
}
/* legible on the ground of pictures */
.said {
  padding: 1px 6px;
  font-size: 12px;
  background: var(--raised);
}
</style>
