<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** What the settings do. */
  audit: Schemas['AuditView'];
}>();
</script>

<template>
  <div>
    <p class="verdict">
      <ConditionMark :condition="audit.condition" :size="20" /><b>{{ audit.verdict }}</b>
    </p>
    <ul>
      <li v-for="s in audit.stages" :key="s.stage">
        <ConditionMark :condition="s.condition" />
        <span>{{ s.said }}</span>
      </li>
    </ul>
    <p class="small dim">At {{ audit.at }}. {{ audit.rule }}</p>
  </div>
</template>

<style scoped>
.verdict,
li {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
li {
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}
.small {
  margin-top: 6px;
}
</style>
