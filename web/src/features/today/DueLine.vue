<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import MiniPlan from '@/components/plan/MiniPlan.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import ExplainedWord from '@/components/ui/ExplainedWord.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useStartVisit } from '@/composables/useStartVisit';
import { defineAsyncComponent, ref, shallowRef } from 'vue';

const PutOffForm = defineAsyncComponent(() => import('./PutOffForm.vue'));

const props = defineProps<{
  /** What is due. */
  item: Schemas['DueView'];
}>();
const emit = defineEmits<{ changed: [] }>();
const { start, failure: notBegun } = useStartVisit();
const open = ref(false);
const failure = shallowRef<Failure | null>(null);

function kept(): void {
  open.value = false;
  emit('changed');
}
async function done(): Promise<void> {
  try {
    await need(
      api.POST('/api/reminders/{id}/done', {
        params: { path: { id: props.item.about } },
      }),
    );
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <li class="due">
    <ConditionMark :condition="item.condition" :size="22" />
    <div class="words">
      <h3>
        <CellWords :text="item.said.title" />
        <RouterLink :to="`/banks/${item.bank}`" class="site">{{
          [item.site, item.name].filter(Boolean).join(', ')
        }}</RouterLink>
      </h3>
      <p><CellWords :text="item.said.why" /></p>
      <p v-if="item.said.other" class="small dim"><CellWords :text="item.said.other" /></p>
      <p v-if="item.said.postponed" class="small put">{{ item.said.postponed }}</p>
      <div class="acts">
        <button
          type="button"
          class="btn sm"
          :class="{ go: item.open_visit }"
          :aria-label="`${item.open_visit ? 'Go on with the visit' : item.only ? 'Begin a short visit' : item.job ? 'Begin the visit for it' : 'Begin a visit'}: ${item.site}, ${item.said.title}`"
          @click="start(item.bank, item.open_visit, { only: item.only, job: item.job })"
        >
          {{ item.open_visit ? 'Go on' : item.only ? 'Short visit' : 'Visit' }}
        </button>
        <RouterLink
          v-if="item.equipment"
          class="btn sm quiet"
          :to="`/banks/${item.bank}/equipment`"
          :aria-label="`What stands there: ${item.site}, ${item.said.title}`"
          >What stands there</RouterLink
        >
        <button
          v-if="item.task === 'reminder'"
          type="button"
          class="btn sm quiet"
          :aria-label="`Done: ${item.said.title}`"
          @click="done"
        >
          Done
        </button>
        <button
          type="button"
          class="btn sm quiet"
          :aria-label="`Put off: ${item.said.title}, ${item.site}`"
          :aria-expanded="open"
          @click="open = !open"
        >
          Put off
        </button>
        <ExplainedWord class="small dim rule" :says="item.said.rule">by which rule</ExplainedWord>
      </div>
      <FailureNote :failure="notBegun ?? failure" />
      <PutOffForm v-if="open" :item="item" @close="open = false" @done="kept" />
    </div>
    <MiniPlan class="mini" :rows="item.mini" />
    <div class="when">
      <b :class="{ late: item.late || item.day === 'today' }">{{ item.day }}</b>
      <span class="dim">{{ item.minutes }}</span>
    </div>
  </li>
</template>

<style scoped>
.due {
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto 104px;
  gap: 12px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
  align-items: start;
}
.words p {
  color: var(--ink-2);
}
.site {
  margin-left: 8px;
  font: 500 14px/19px var(--text);
  color: var(--ink-2);
  text-decoration: none;
}
.site:hover {
  text-decoration: underline;
  color: var(--action);
}
.mini {
  max-width: 170px;
}
.when {
  display: grid;
  justify-items: end;
  text-align: right;
}
.late {
  color: var(--act-text);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  margin-top: 4px;
}
.put {
  color: var(--watch-text) !important;
}
@media (max-width: 720px) {
  .due {
    grid-template-columns: 26px minmax(0, 1fr);
  }
  .mini,
  .when {
    grid-column: 2;
  }
  .when {
    grid-row: 1;
  }
  .due > :first-child {
    grid-row: 1 / 3;
  }
  .words {
    grid-column: 2;
  }
  .when {
    grid-auto-flow: column;
    justify-content: space-between;
    justify-items: start;
    align-items: center;
    width: 100%;
  }
  .site {
    display: block;
    margin: 0;
  }
}
@media print {
  .acts,
  .rule {
    display: none;
  }
}
</style>
