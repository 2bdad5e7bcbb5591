<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
import BankLine from './BankLine.vue';
import FirstRun from './FirstRun.vue';
import ImportButton from './ImportButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useUndo } from '@/composables/useUndo';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { findBanks, sortBanks } from './findBanks';
import { WORD } from '@/logic/glyphs';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';

const router = useRouter();
const { data, loading, failure, load } = useRemote(() => need(api.GET('/api/banks')));
const typed = ref('');
const sort = ref<'condition' | 'name' | 'round'>('condition');
const only = ref<'' | Schemas['Severity']>('');
const archived = ref(false);
const picking = ref(false);
const picked = ref(new Set<string>());
const busy = ref(false);
const gone = ref(0);
const refused = shallowRef<Failure | null>(null);
const undo = useUndo();
function pick(id: string, on: boolean): void {
  if (on) picked.value.add(id);
  else picked.value.delete(id);
}
function togglePicking(): void {
  picking.value = !picking.value;
  picked.value.clear();
}
const path = (id: string) => ({ params: { path: { id } } });
/** One after the other; where one is refused the rest stay picked. */
async function archivePicked(): Promise<void> {
  const done: string[] = [];
  busy.value = true;
  refused.value = null;
  gone.value = 0;
  try {
    for (const id of picked.value) {
      await need(api.POST('/api/banks/{id}/archive', path(id)));
      done.push(id);
      gone.value = done.length;
    }
    picking.value = false;
  } catch (error) {
    refused.value = error as Failure;
  }
  done.forEach((id) => picked.value.delete(id));
  busy.value = false;
  await load();
  if (!done.length) return;
  undo.offer(done.length === 1 ? 'One bank is archived.' : `${done.length} banks are archived.`, async () => {
    for (const id of done) await need(api.POST('/api/banks/{id}/restore', path(id)));
    await load();
  });
}
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
      <button v-if="!archived" type="button" class="btn" :aria-pressed="picking" @click="togglePicking">
        {{ picking ? 'Leave the picking' : 'Pick several' }}
      </button>
      <CheckField v-if="someArchived || archived" v-model="archived" class="archived" label="archived" />
    </div>
    <div v-if="picking" class="several" role="group" aria-label="Several banks">
      <span>{{ picked.size === 1 ? '1 bank' : `${picked.size} banks` }} picked</span>
      <button type="button" class="btn sm" @click="shown.forEach((hit) => pick(hit.bank.id, true))">
        Pick all that are shown
      </button>
      <button type="button" class="btn sm go" :disabled="!picked.size || busy" @click="archivePicked">
        {{ busy ? 'Archiving' : 'Archive them' }}
      </button>
      <a-progress
        v-if="busy"
        class="going"
        :percent="(100 * gone) / picked.size"
        :format="() => `${gone} of ${picked.size}`"
        size="small"
      />
    </div>
    <FailureNote :failure="refused" />
    <ul class="banks">
      <BankLine
        v-for="hit in shown"
        :key="hit.bank.id"
        :bank="hit.bank"
        :cell="hit.cell"
        :picking="picking"
        :picked="picked.has(hit.bank.id)"
        @update:picked="pick(hit.bank.id, $event)"
        @changed="load"
      />
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
.archived {
  padding-bottom: 9px;
}
.several {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 6px 0;
}
.going {
  width: 220px;
}
.banks {
  border-top: 1px solid var(--line-strong);
}
</style>
