<script setup lang="ts">
import type { Schemas } from '@/api/client';
import DueLine from './DueLine.vue';
import { PAGE } from './useToday';

defineProps<{
  /** What is due on this page, by what happens when it is left. */
  groups: { name: string; items: Schemas['DueView'][] }[];
  /** Lines before this page, lines on it, lines in all. */
  from: number;
  shown: number;
  total: number;
}>();
defineEmits<{ changed: []; turn: [by: number] }>();
</script>

<template>
  <template v-for="g in groups" :key="g.name">
    <h2 class="group">{{ g.name }}</h2>
    <ul :aria-label="g.name">
      <DueLine
        v-for="item in g.items"
        :key="`${item.bank} ${item.task} ${item.about}`"
        :item="item"
        @changed="$emit('changed')"
      />
    </ul>
  </template>
  <p v-if="!shown" class="dim nothing">
    {{ total ? 'Nothing further on this page.' : 'Nothing is due in the month ahead.' }}
  </p>
  <p v-if="total > shown" class="pages">
    <button type="button" class="btn sm" :disabled="!from" @click="$emit('turn', -PAGE)">Earlier</button>
    {{ from + 1 }} to {{ from + shown }} of {{ total }}
    <button type="button" class="btn sm" :disabled="from + shown >= total" @click="$emit('turn', PAGE)">
      Later
    </button>
  </p>
</template>

<style scoped>
.group {
  font: 600 13px/18px var(--text);
  color: var(--ink-2);
  border-bottom: 1px solid var(--line-strong);
  padding: 14px 0 6px;
}
.pages {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 12px 0;
}
.nothing {
  margin: 14px 0;
}
@media print {
  .pages {
    display: none;
  }
}
</style>
