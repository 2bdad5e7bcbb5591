<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Schemas } from '@/api/client';
import BankLine from '@/components/bank/BankLine.vue';
import FirstRun from '@/components/bank/FirstRun.vue';
import ImportButton from '@/components/bank/ImportButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { findBanks, sortBanks } from '@/logic/findBanks';
import { WORD } from '@/logic/glyphs';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';

const router = useRouter();
const { data, loading, failure, load } = useRemote(() => need(api.GET('/api/banks')));
const typed = ref('');
const sort = ref<'condition' | 'name' | 'round'>('condition');
const only = ref<'' | Schemas['Severity']>('');
const archived = ref(false);
useShortcuts({ '/': () => document.getElementById('find-bank')?.focus() });

const shown = computed(() => {
  const here = (data.value ?? []).filter(
    (b) => b.archived === archived.value && (!only.value || b.condition === only.value),
  );
  return sortBanks(findBanks(here, typed.value), sort.value);
});
const someArchived = computed(() => (data.value ?? []).some((b) => b.archived));
const count = computed(() => {
  const here = (data.value ?? []).filter((b) => !b.archived).length;
  return here === 1 ? '1 bank' : `${here} banks`;
});
const headline = computed(() => {
  const here = (data.value ?? []).filter((b) => !b.archived);
  const acting = here.filter((b) => b.condition === 'act');
  if (!here.length) return 'Every bank is archived.';
  if (acting.length === 1) return `One bank asks for action: ${acting[0]!.site}.`;
  if (acting.length) return `${acting.length} banks ask for action.`;
  const watched = here.filter((b) => b.condition === 'watch').length;
  if (watched)
    return watched === 1
      ? 'One bank to watch, the others are steady or unread.'
      : `${watched} banks to watch.`;
  return here.every((b) => b.condition === 'steady') ? 'Every bank is steady.' : 'No bank asks for action.';
});
function first(): void {
  const hit = shown.value[0];
  if (hit) void router.push({ path: `/banks/${hit.bank.id}`, query: hit.cell ? { cell: hit.cell } : {} });
}
</script>

<template>
  <LoadingLines v-if="loading && !data" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <FirstRun v-else-if="!data?.length" @loaded="load" />
  <template v-else>
    <WhereLine place="Banks" :parts="[count]">
      <ImportButton @imported="load" />
      <RouterLink class="btn go" to="/banks/new">Describe a bank</RouterLink>
    </WhereLine>
    <h1>{{ headline }}</h1>
    <div class="tools" role="search">
      <TextField
        id="find-bank"
        v-model="typed"
        class="find"
        label="Find a site, a bank or an address"
        type="search"
        @keydown.enter="first"
      />
      <ChoiceField
        v-model="only"
        label="Condition"
        :options="[
          { value: '', label: 'all' },
          ...(['act', 'watch', 'reread', 'no_reading', 'steady'] as const).map((c) => ({
            value: c,
            label: WORD[c],
          })),
        ]"
      />
      <ChoiceField
        v-model="sort"
        label="Sorted by"
        :options="[
          { value: 'condition', label: 'what asks first' },
          { value: 'name', label: 'name' },
          { value: 'round', label: 'oldest round' },
        ]"
      />
      <CheckField v-if="someArchived || archived" v-model="archived" class="archived" label="archived" />
    </div>
    <ul class="banks">
      <BankLine v-for="hit in shown" :key="hit.bank.id" :bank="hit.bank" :cell="hit.cell" @changed="load" />
    </ul>
    <p v-if="!shown.length" class="dim">
      Nothing answers to that. Clear the search or the filter to see every bank.
    </p>
  </template>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: flex-end;
  margin: 16px 0 8px;
}
.find {
  flex: 1 1 280px;
  max-width: 420px;
}
.tools select {
  min-width: 150px;
}
.archived {
  padding-bottom: 9px;
}
.banks {
  border-top: 1px solid var(--line-strong);
}
</style>
