<script setup lang="ts">
import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { ref } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{
  /** The page of the bank. */
  page: Schemas['BankPage'];
  /** Whether rounds are taken of it. */
  reads: boolean;
}>();
const emit = defineEmits<{ changed: []; failed: [failure: Failure]; replacements: []; choices: [] }>();
const router = useRouter();
const open = ref(false);
const sets = ref<Schemas['HouseRules'][]>([]);
const path = { params: { path: { id: props.page.bank.id } } };

async function show(): Promise<void> {
  open.value = !open.value;
  if (open.value && !sets.value.length) sets.value = await need(api.GET('/api/house-rules')).catch(() => []);
}
async function act(work: () => Promise<unknown>, then: () => void): Promise<void> {
  open.value = false;
  try {
    await work();
    then();
  } catch (error) {
    emit('failed', error as Failure);
  }
}
const away = (): void => void router.push('/banks');
const archive = () => act(() => need(api.POST('/api/banks/{id}/archive', path)), away);
const restore = () =>
  act(
    () => need(api.POST('/api/banks/{id}/restore', path)),
    () => emit('changed'),
  );
const remove = () => act(() => need(api.DELETE('/api/banks/{id}', path)), away);
const judgeBy = (rules: string) =>
  act(
    () =>
      need(
        api.PUT('/api/banks/{id}/house-rules', {
          params: { path: { id: props.page.bank.id }, header: seen(props.page.bank.version) },
          body: { rules },
        }),
      ),
    () => emit('changed'),
  );
</script>

<template>
  <div class="menu" @keydown.esc="open = false">
    <button type="button" class="btn sm" :aria-expanded="open" @click="show">More</button>
    <div v-if="open" class="sheet">
      <p class="label">Judge by</p>
      <button
        v-for="s in sets"
        :key="s.key"
        type="button"
        class="item"
        :aria-pressed="page.bank.rules_key === s.key"
        :title="s.suits"
        @click="judgeBy(s.key)"
      >
        {{ s.name }}<b v-if="page.bank.rules_key === s.key"> ·&nbsp;now</b>
      </button>
      <button type="button" class="item" @click="((open = false), emit('choices'))">
        Choices of its own
      </button>
      <p class="label">To print and carry</p>
      <a class="item" :href="`/api/banks/${page.bank.id}/field-sheet`" target="_blank">Blank field sheet</a>
      <a class="item" :href="`/api/calendar.ics?bank=${page.bank.id}`">Its calendar</a>
      <p class="label">As a file</p>
      <a class="item" :href="`/api/banks/${page.bank.id}/export.csv`">Rounds as CSV</a>
      <a class="item" :href="`/api/banks/${page.bank.id}/export.json`">Everything as JSON</a>
      <template v-if="reads">
        <p class="label">From paper</p>
        <RouterLink class="item" :to="`/banks/${page.bank.id}/notebook`">Notebook years</RouterLink>
      </template>
      <p class="label">This bank</p>
      <button type="button" class="item" @click="((open = false), emit('replacements'))">
        Replace or move a battery
      </button>
      <RouterLink class="item" :to="`/banks/${page.bank.id}/edit`">Put the description right</RouterLink>
      <button v-if="page.bank.archived_at" type="button" class="item" @click="restore">Restore</button>
      <button v-else type="button" class="item" @click="archive">Archive</button>
      <button v-if="!page.history.length && !page.open_round" type="button" class="item" @click="remove">
        Delete, it has no readings
      </button>
    </div>
  </div>
</template>

<style scoped>
.menu {
  position: relative;
}
.sheet {
  position: absolute;
  right: 0;
  top: 32px;
  z-index: 10;
  width: 230px;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 8px 0;
  box-shadow: 0 6px 18px var(--shade);
}
.label {
  font: var(--t-label);
  color: var(--ink-3);
  padding: 6px 14px 2px;
}
.item {
  display: block;
  width: 100%;
  text-align: left;
  padding: 7px 14px;
  border: 0;
  background: none;
  color: var(--ink);
  font: 400 14px/20px var(--text);
  cursor: pointer;
  text-decoration: none;
}
.item:hover,
.item:focus-visible {
  background: var(--sunk);
}
@media (max-width: 720px) {
  .sheet {
    left: 0;
    right: auto;
  }
  .item {
    padding: 13px 14px;
  }
}
</style>
