<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Visit } from '../useVisit';

defineProps<{
  /** What was tested. */
  lines: Schemas['TestLine'][];
  /** The visit. */
  visit: Visit;
  /** What the lines are. */
  label: string;
}>();
</script>

<template>
  <ul v-if="lines.length" :aria-label="label">
    <li v-for="line in lines" :key="line.entry">
      <ConditionMark :condition="line.condition" />
      <div class="grow">
        <p>
          <b>{{ line.said }}</b>
        </p>
        <p v-for="more in line.more" :key="more" class="small">{{ more }}</p>
        <p class="small dim">{{ line.by }}</p>
      </div>
      <button
        v-if="visit.open.value"
        type="button"
        class="btn sm quiet"
        :aria-label="`Wrong entry: ${line.said}`"
        @click="visit.takeBack(line.entry, 'The test is taken back.')"
      >
        Wrong entry
      </button>
    </li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  border-top: 1px solid var(--line);
  padding: 7px 0;
}
.grow {
  flex: 1;
}
</style>
