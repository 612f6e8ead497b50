<script setup lang="ts">
/** A project that somebody else saved meanwhile: both versions, and the choice between them. */
export interface Conflict {
  head: number
  /** Number of ours, which is kept beside theirs; null where it is not saved. */
  kept: number | null
  /** Thumbnails of the two. */
  theirs: string | null
  ours: string | null
}
defineProps<{ conflict: Conflict }>()
const emit = defineEmits<{ saveOver: []; takeTheirs: [] }>()
</script>

<template>
  <PlainDialog
    title="Somebody saved this project since you opened it"
    :description="conflict.kept !== null ? 'Both versions are kept' : 'Theirs and yours'"
    place="conflict-dialog"
    insists
  >
    <p>
      <b>Somebody saved this project since you opened it.</b>
      <template v-if="conflict.kept !== null"
        >Both are kept: theirs is v{{ conflict.head }}, yours stands beside it as v{{ conflict.kept }}.</template
      >
      <template v-else
        >Theirs is v{{ conflict.head }}, yours is not saved. Yours is a step of undo away when you go on with
        theirs.</template
      >
    </p>
    <div class="two">
      <div>
        <span class="pic">
          <img v-if="conflict.theirs" :src="`/api/assets/${conflict.theirs}`" alt="Their version" /> </span
        >theirs, v{{ conflict.head }}<UButton @click="emit('takeTheirs')">Go on with theirs</UButton>
      </div>
      <div>
        <span class="pic">
          <img v-if="conflict.ours" :src="`/api/assets/${conflict.ours}`" alt="Your version" /> </span
        >{{ conflict.kept !== null ? `yours, v${conflict.kept}` : 'yours'
        }}<UButton @click="emit('saveOver')">{{
          conflict.kept !== null ? 'Save yours on top' : 'Keep mine'
        }}</UButton>
      </div>
    </div>
  </PlainDialog>
</template>

<style>
.conflict-dialog {
  z-index: 50;
  top: 90px;
  translate: -50% 0;
  width: 560px;
  padding: 12px 16px;
}
.conflict-dialog .two {
  display: flex;
  gap: 14px;
  padding-top: 8px;
}
.conflict-dialog .two > div {
  flex: 1;
  display: grid;
  gap: 4px;
}
.conflict-dialog .pic {
  aspect-ratio: 8 / 5;
  background: var(--ground);
}
.conflict-dialog .pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
</style>
