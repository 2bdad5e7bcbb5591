<script setup lang="ts" generic="T extends string">
import CheckField from '@/components/form/CheckField.vue';
import type { Visit, What } from './useVisit';

defineProps<{
  /** What can be ticked, with who ticked it. */
  ticks: {
    item: T;
    said: string;
    done?: string | null;
    entry?: string | null;
    may_be_missing?: boolean;
    missing?: string;
  }[];
  /** The visit. */
  visit: Visit;
  /** What a tick writes down. */
  entry: (item: T) => What;
  /** What says that there is no such thing here. */
  missing?: (item: T) => What;
}>();
</script>

<template>
  <ul class="list">
    <li v-for="t in ticks" :key="t.item">
      <CheckField
        :model-value="!!t.done && !t.missing"
        :disabled="!visit.open.value || visit.saving.value || (!!t.done && !t.entry)"
        @change="visit.say(t.entry && !t.missing ? { kind: 'withdrawn', entry: t.entry } : entry(t.item))"
        >{{ t.said }}</CheckField
      >
      <button
        v-if="missing && t.may_be_missing && !t.done && visit.open.value"
        type="button"
        class="btn sm quiet"
        :disabled="visit.saving.value"
        @click="visit.say(missing(t.item))"
      >
        None here<span class="visually-hidden">: {{ t.said }}</span>
      </button>
      <button
        v-if="t.missing && t.entry && visit.open.value"
        type="button"
        class="btn sm quiet"
        :disabled="visit.saving.value"
        @click="visit.say({ kind: 'withdrawn', entry: t.entry })"
      >
        There is one<span class="visually-hidden">: {{ t.said }}</span>
      </button>
      <span class="small dim"
        ><template v-if="t.missing">{{ t.missing }}, </template>{{ t.done }}</span
      >
    </li>
  </ul>
</template>

<style scoped>
.list li {
  display: flex;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
  min-height: 38px;
}
.list.work {
  columns: 2;
  column-gap: 28px;
}
.work li {
  break-inside: avoid;
}
@media (max-width: 720px) {
  .list.work {
    columns: 1;
  }
  .list li {
    min-height: 48px;
  }
}
</style>
