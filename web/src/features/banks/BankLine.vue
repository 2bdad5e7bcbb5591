<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import MiniPlan from '@/components/plan/MiniPlan.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { shallowRef } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: Schemas['BankSummary'];
  /** The cell that was searched for. */
  cell: string | null;
  /** True while several are picked. */
  picking?: boolean;
}>();
/** Whether it is among those picked. */
const picked = defineModel<boolean>('picked', { default: false });
const emit = defineEmits<{ changed: [] }>();
const failure = shallowRef<Failure | null>(null);

async function restore(): Promise<void> {
  try {
    await need(api.POST('/api/banks/{id}/restore', { params: { path: { id: props.bank.id } } }));
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <li class="line">
    <CheckField v-if="picking" v-model="picked"
      ><span class="visually-hidden"
        >Pick {{ [bank.site, bank.name].filter(Boolean).join(', ') }}</span
      ></CheckField
    >
    <ConditionMark v-else :condition="bank.condition" :size="22" />
    <div class="words">
      <h2>
        <template v-if="bank.unreadable">{{ bank.site }}</template>
        <RouterLink v-else :to="{ path: `/banks/${bank.id}`, query: cell ? { cell } : {} }">{{
          bank.site
        }}</RouterLink>
        <span v-if="bank.name" class="name">{{ bank.name }}</span>
        <span v-if="cell" class="fig">{{ cell }}</span>
      </h2>
      <p><CellWords :text="bank.verdict" /></p>
      <p class="small dim">{{ bank.description }}</p>
      <FailureNote :failure="failure" />
    </div>
    <MiniPlan class="mini" :rows="bank.mini" />
    <div v-if="!bank.unreadable" class="when">
      <b>{{ bank.last_day ?? 'not read' }}</b>
      <span class="dim">{{ bank.rounds === 1 ? '1 round' : `${bank.rounds} rounds` }}</span>
      <RouterLink v-if="bank.open_round" :to="`/rounds/${bank.open_round}`">resume round</RouterLink>
      <button v-if="bank.archived" type="button" class="btn sm" @click="restore">Restore</button>
    </div>
  </li>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) 160px 110px;
  gap: 12px;
  padding: 12px 0;
  border-bottom: 1px solid var(--line);
  align-items: start;
}
h2 a {
  color: var(--ink);
  text-decoration: none;
  font-weight: 600;
}
h2 a:hover {
  color: var(--action);
  text-decoration: underline;
}
.name {
  margin-left: 10px;
  font-weight: 400;
  color: var(--ink-2);
}
h2 .fig {
  margin-left: 10px;
  color: var(--action);
}
.words p {
  color: var(--ink-2);
}
.when {
  display: grid;
  justify-items: end;
  gap: 2px;
  text-align: right;
}
@media (max-width: 720px) {
  .line {
    grid-template-columns: 26px minmax(0, 1fr);
  }
  .mini {
    grid-column: 2;
  }
  .when {
    grid-column: 2;
    justify-items: start;
    text-align: left;
    grid-auto-flow: column;
    justify-content: start;
    gap: 12px;
    align-items: center;
  }
  h2 a {
    display: inline-block;
    padding: 6px 0;
  }
}
</style>
