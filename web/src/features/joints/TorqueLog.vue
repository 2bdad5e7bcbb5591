<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** Every tightening, the newest first. */
  lines: Schemas['TorqueLine'][];
  /** When they are due, and why; empty: said elsewhere. */
  due?: string;
  /** What the model asks for; empty: not published. */
  asked: string;
  /** Entries that can be taken back: those of the visit that is open. */
  mine?: string[];
}>();
defineEmits<{ wrong: [entry: string] }>();
</script>

<template>
  <section>
    <h2>Torque</h2>
    <p v-if="due">{{ due }}</p>
    <p class="small">
      {{
        asked
          ? `The model asks for ${asked}.`
          : 'No torque of the posts is on record for this model: the maker’s manual says it.'
      }}
    </p>
    <ul v-if="lines.length" aria-label="Torque log">
      <li v-for="l in lines.slice(0, 8)" :key="l.entry">
        <span class="day">{{ l.day }}</span>
        <span
          >{{ l.place }} {{ l.what }}<template v-if="l.torque">, {{ l.torque }}</template
          ><template v-if="l.note">: {{ l.note }}</template></span
        >
        <span class="small dim"
          >{{ l.by }}
          <button
            v-if="mine?.includes(l.entry)"
            type="button"
            class="btn sm quiet"
            :aria-label="`Wrong entry: torque of ${l.place}`"
            @click="$emit('wrong', l.entry)"
          >
            Wrong entry
          </button></span
        >
      </li>
    </ul>
    <p v-else class="small dim">No tightening is on record.</p>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 0 10px;
  border-top: 1px solid var(--line);
  padding: 5px 0;
}
li .small {
  grid-column: 2;
}
.day {
  font: 500 13px/20px var(--mono);
}
</style>
