<script setup lang="ts">
import type { Schemas } from '@/api/client';

/** What charges the bank, how it is set, and what was set anew on this visit. */
defineProps<{
  sources: Schemas['SourcesView'];
  /** The bank. */
  bank: string;
  /** Something may be written down. */
  open: boolean;
}>();
</script>

<template>
  <section class="chargers" aria-labelledby="chargers">
    <div class="head">
      <h2 id="chargers">What charges it</h2>
      <span class="grow" />
      <RouterLink v-if="open" class="btn" :to="`/banks/${bank}/equipment`">{{
        sources.told.length ? 'Settings' : 'Write down its settings'
      }}</RouterLink>
    </div>
    <p v-if="!sources.told.length" class="small dim">Nothing is told yet.</p>
    <p v-for="line in sources.told" :key="line" class="small">{{ line }}.</p>
    <p v-for="line in sources.set" :key="line"><b>Set anew:</b> {{ line }}.</p>
    <p v-for="line in sources.before" :key="line" class="small dim">last time: {{ line }}</p>
  </section>
</template>

<style scoped>
.chargers {
  border-top: 1px solid var(--line);
  padding: 10px 0;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
