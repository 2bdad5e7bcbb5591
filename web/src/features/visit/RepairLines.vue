<script setup lang="ts">
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';

/** What was done about something, each with a way to take a wrong entry back. */
defineProps<{
  repairs: Schemas['RepairView'][];
  visit: Visit;
  /** What it was done about: "Terminals A6". */
  about: string;
}>();
</script>

<template>
  <ul v-if="repairs.length" class="repairs" :aria-label="`Done about ${about}`">
    <li v-for="r in repairs" :key="r.entry" class="small">
      Done: <b>{{ r.said }}</b>. Left {{ r.left }}. <span class="dim">{{ r.by }}</span>
      {{ ' ' }}
      <button
        v-if="visit.open.value"
        type="button"
        class="btn sm quiet"
        :aria-label="`${about}, ${r.said}: wrong entry`"
        @click="visit.takeBack(r.entry, `${about}: “${r.said}” is taken back.`)"
      >
        Wrong entry
      </button>
    </li>
  </ul>
</template>

<style scoped>
.repairs li {
  padding: 2px 0;
}
</style>
