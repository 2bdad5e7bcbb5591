<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** Runs that are not over. */
  runs: Schemas['RunLine'][];
}>();
</script>

<template>
  <section v-if="runs.length" class="runs" aria-label="Equalizing now">
    <h2>Equalizing now</h2>
    <ul>
      <li v-for="r in runs" :key="r.id">
        <ConditionMark :condition="r.alarm ? 'act' : 'steady'" :size="20" />
        <div class="grow">
          <p>
            <b>{{ r.place }}</b> <span class="fig">{{ r.elapsed }}</span> h<template v-if="r.person"
              >, {{ r.person }} stays with it</template
            >
          </p>
          <p class="small">{{ r.verdict }}</p>
        </div>
        <RouterLink class="btn" :class="{ go: r.alarm }" :to="`/runs/${r.id}`">To the run</RouterLink>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.runs {
  margin: 10px 0;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 9px 0;
}
</style>
