<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { computed, ref } from 'vue';

const props = withDefaults(
  defineProps<{
    /** What is due on this bank, most pressing first. */
    due: Schemas['VisitDue'][];
    /** How many are shown at first. */
    first?: number;
    /** Whether a short visit can be begun from here. */
    begins?: boolean;
  }>(),
  { first: 4, begins: false },
);
defineEmits<{ begin: [only: Schemas['Step']] }>();
const all = ref(false);
const shown = computed(() => (all.value ? props.due : props.due.slice(0, props.first)));
</script>

<template>
  <section aria-label="What is due">
    <h2>What is due</h2>
    <p v-if="!due.length" class="dim">Nothing.</p>
    <ul>
      <li v-for="(d, i) in shown" :key="i">
        <ConditionMark :condition="d.condition" />
        <div>
          <p>
            <b><CellWords :text="d.title" /></b>,
            <span class="day">{{ d.late ? `overdue since ${d.day}` : d.day }}</span>
          </p>
          <p class="small"><CellWords :text="d.why" /></p>
          <p v-if="d.other" class="small dim"><CellWords :text="d.other" /></p>
          <p v-if="d.postponed" class="small dim">{{ d.postponed }}</p>
          <p class="small dim">{{ d.rule }}</p>
          <button
            v-if="begins && d.only"
            type="button"
            class="btn sm"
            :aria-label="`Begin a short visit: ${d.title}`"
            @click="$emit('begin', d.only)"
          >
            Short visit
          </button>
        </div>
      </li>
    </ul>
    <button v-if="due.length > first" type="button" class="btn sm" @click="all = !all">
      {{ all ? 'Fewer' : `All ${due.length}` }}
    </button>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  gap: 8px;
  align-items: start;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.day {
  white-space: nowrap;
}
.btn {
  margin-top: 8px;
}
</style>
