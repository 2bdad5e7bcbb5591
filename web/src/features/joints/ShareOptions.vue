<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import ShareOffset from '@/components/chart/ShareOffset.vue';

const props = defineProps<{
  /** Joints and strings. */
  view: Schemas['JointsView'];
}>();
/** All of them on one field: as far as the furthest. */
const reach = computed(
  () => 1.1 * Math.max(props.view.within * 2, ...props.view.options.flatMap((o) => o.off.map(Math.abs))),
);
</script>

<template>
  <section>
    <h2>What would even it</h2>
    <p class="small dim">
      The middle is an even share, the band {{ (100 * view.within).toFixed(0) }} % around it.
    </p>
    <ul aria-label="What would even it">
      <li v-for="o in view.options" :key="o.what" :class="{ best: o.cheapest }">
        <p class="what">
          <b>{{ o.what }}</b>
          <span class="small dim">{{ o.work }}</span>
        </p>
        <ShareOffset :off="o.off" :within="view.within" :even="o.even" :said="o.said" :reach="reach" />
        <p class="small">{{ o.said }}{{ o.cheapest ? ', the least work that evens them' : '' }}</p>
      </li>
    </ul>
    <p v-if="view.why"><b>Why it is uneven.</b> {{ view.why }}</p>
    <p v-if="view.does"><b>What it does.</b> {{ view.does }}</p>
  </section>
</template>

<style scoped>
li {
  border-top: 1px solid var(--line);
  padding: 6px 8px;
}
.what {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.what span {
  white-space: nowrap;
}
.best {
  box-shadow: inset 0 0 0 2px var(--action);
  border-radius: var(--radius);
}
section > p {
  margin-top: 8px;
}
</style>
