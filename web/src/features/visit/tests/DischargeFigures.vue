<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
}>();
</script>

<template>
  <dl>
    <div v-if="own.current">
      <dt>Current</dt>
      <dd>{{ own.current }}</dd>
    </div>
    <div v-if="own.hottest || own.at_start">
      <dt>Hottest electrolyte or case</dt>
      <dd>
        <b class="fig">{{ own.hottest || 'not read' }}</b>
        <p v-if="own.at_start" class="small">
          {{ own.at_start }} at the start, which the result is told from
        </p>
      </dd>
    </div>
    <div>
      <dt>Readings</dt>
      <dd class="fig">{{ own.readings.length }}</dd>
    </div>
  </dl>
</template>

<style scoped>
dl > div {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
dt {
  font-weight: 600;
}
</style>
