<script setup lang="ts">
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import DueShort from '@/features/visit/DueShort.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ pick: [cell: string]; begin: [only: Schemas['Step']] }>();
</script>

<template>
  <aside>
    <template v-if="page.round || page.findings.length">
      <h2>Findings</h2>
      <FindingList
        :findings="page.findings"
        :picks="[page.has_caps ? 'cell' : 'battery']"
        @pick="$emit('pick', $event)"
      />
    </template>
    <template v-else-if="page.has_caps">
      <h2>Before the first round</h2>
      <p class="start">
        Bank at rest and off charge, half an hour after the last heavy load. Take a round now, or bring the
        years of your notebook first.
      </p>
    </template>
    <DueShort
      class="doubts"
      :due="page.due"
      :first="3"
      :begins="!page.open_visit && !page.bank.archived_at"
      @begin="$emit('begin', $event)"
    />
    <div v-if="page.doubts.length" class="doubts">
      <h3>What is not known</h3>
      <p v-for="d in page.doubts" :key="d" class="small">{{ d }}</p>
    </div>
    <div class="doubts">
      <h3>Judged by</h3>
      <p class="small">
        {{ page.house }}. Figures of {{ page.model_name }}: {{ page.model_source }}. Fill mark:
        {{ page.fill_mark }}. Maker’s manual first.
      </p>
    </div>
  </aside>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}
.start {
  color: var(--ink-2);
}
.doubts {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 10px;
}
</style>
