<script setup lang="ts">
import type { Draft } from '../../shared/api'

/** Unsaved work that was found, and the choice after a save that was refused. */
defineProps<{
  offered: Draft | null
  conflict: { head: number; kept: number; theirs: string | null; ours: string | null } | null
  head: number
}>()
const emit = defineEmits<{ takeDraft: []; dropDraft: []; saveOver: []; takeTheirs: [] }>()
const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div v-if="offered" class="bar" role="status">
    <span
      >Unsaved work of {{ when(offered.updated) }} was kept{{
        offered.base < head ? `; it began from v${offered.base}, the project is at v${head} now` : ''
      }}.</span
    >
    <button class="b" @click="emit('takeDraft')">Take it up</button>
    <button class="b" @click="emit('dropDraft')">Drop it</button>
  </div>
  <div
    v-if="conflict"
    class="choice"
    role="alertdialog"
    aria-label="Somebody saved this project since you opened it"
  >
    <p>
      <b>Somebody saved this project since you opened it.</b> Both are kept: theirs is v{{ conflict.head }}, yours
      stands beside it as v{{ conflict.kept }}.
    </p>
    <div class="two">
      <div>
        <span class="pic">
          <img v-if="conflict.theirs" :src="`/api/assets/${conflict.theirs}`" alt="Their version" /> </span
        >theirs, v{{ conflict.head }}<button class="b" @click="emit('takeTheirs')">Go on with theirs</button>
      </div>
      <div>
        <span class="pic">
          <img v-if="conflict.ours" :src="`/api/assets/${conflict.ours}`" alt="Your version" /> </span
        >yours, v{{ conflict.kept }}<button class="b" @click="emit('saveOver')">Save yours on top</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
/* over the panes: the picture does not begin anew because a notice came */
.bar {
  position: fixed;
  z-index: 30;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 6px 10px;
  background: var(--raised);
  border: 1px solid var(--ink);
}
.choice {
  position: fixed;
  z-index: 50;
  left: 50%;
  top: 90px;
  transform: translateX(-50%);
  width: 560px;
  padding: 12px 16px;
  background: var(--raised);
  border: 1px solid var(--ink);
}
.two {
  display: flex;
  gap: 14px;
  padding-top: 8px;
}
.two > div {
  flex: 1;
  display: grid;
  gap: 4px;
}
.pic {
  aspect-ratio: 8 / 5;
  background: var(--ground);
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
</style>
