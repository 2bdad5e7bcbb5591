<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** What stands there. */
  page: Schemas['EquipmentPage'];
}>();
</script>

<template>
  <section aria-labelledby="charged-within">
    <h2 id="charged-within">Charged within</h2>
    <dl>
      <div v-for="line in page.limits" :key="line.name">
        <dt>{{ line.name }}</dt>
        <dd>{{ line.meaning }}</dd>
      </div>
    </dl>
    <h3>Never</h3>
    <ul>
      <li v-for="line in page.never" :key="line">{{ line }}</li>
    </ul>
    <p class="small">
      CH-1, CH-2 and CH-4 by the battery model; common practice, no source, where the model is generic. The
      maker’s manual first.
    </p>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  margin-top: 18px;
  padding-top: 10px;
}
dl div {
  display: grid;
  grid-template-columns: 180px minmax(0, 1fr);
  gap: 2px 14px;
  border-bottom: 1px solid var(--line);
  padding: 5px 0;
}
dt {
  color: var(--ink-2);
}
h3 {
  margin: 12px 0 4px;
}
ul {
  padding-left: 18px;
  list-style: disc;
  max-width: 78ch;
}
@media (max-width: 560px) {
  dl div {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
