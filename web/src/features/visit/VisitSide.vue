<script setup lang="ts">
import AccessNotes from './AccessNotes.vue';
import DueShort from './DueShort.vue';
import WeighedShort from './WeighedShort.vue';
import type { VisitPage } from './useVisit';

/** Beside the steps: how to get to the bank, what is due, and by which figures it is judged. */
defineProps<{ page: VisitPage }>();
defineEmits<{ changed: [] }>();
</script>

<template>
  <aside class="beside">
    <AccessNotes
      :bank="page.bank"
      :notes="page.access"
      :by="page.access_by"
      :stands-there="page.stands_there"
      :hook-up="page.hook_up"
      :own-numbers="page.own_numbers"
      :version="page.bank_version"
      @changed="$emit('changed')"
    />
    <DueShort :due="page.due" />
    <WeighedShort :page="page" />
    <p class="small dim basis">{{ page.model }}. {{ page.house }}. Maker’s manual first.</p>
  </aside>
</template>

<style scoped>
.beside {
  border-left: 1px solid var(--line);
  padding-left: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.basis {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
@media (max-width: 1080px) {
  .beside {
    border-left: 0;
    padding-left: 0;
    margin-top: 20px;
  }
}
</style>
