<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import { computed, nextTick, ref } from 'vue';
import type { Visit } from '../useVisit';
import TestLines from './TestLines.vue';
import { sayTest, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const cells = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.flatMap((b) => b.cells)));
const when = ref<Schemas['CellVoltsWhen']>('near_end');
const cell = ref(cells.value[0] ?? '');
const typed = ref('');
const question = ref<string | null>(null);
async function keep(stands = false): Promise<void> {
  const asked = await sayTest(
    props.visit,
    { test: 'cell_volts', when: when.value, typed: typed.value, stands },
    cell.value,
  );
  if (asked) question.value = asked;
  if (asked !== null) return;
  question.value = null;
  typed.value = '';
  cell.value = cells.value[cells.value.indexOf(cell.value) + 1] ?? cell.value;
  await nextTick();
  document.getElementById('cell-volts')?.focus();
}
</script>

<template>
  <p>
    Where the posts of a cell can be reached, or through the caps with a probe made for it. Never with a bare
    tip across two cells.
  </p>
  <FormFrame v-if="visit.open.value" class="one" :failure="visit.failure.value" elsewhere @submit="keep()">
    <ChoiceField
      v-model="when"
      label="Read"
      :options="tests.cell_states.map((s) => ({ value: s.when, label: s.said }))"
    />
    <ChoiceField
      v-model="cell"
      label="Cell"
      class="narrow"
      :options="cells.map((c) => ({ value: c, label: c }))"
    />
    <TextField
      id="cell-volts"
      v-model="typed"
      figure
      class="short"
      label="Volts of the cell"
      :error="visit.fault('typed', 'test', cell)"
    />
    <button type="submit" class="btn go" :disabled="visit.saving.value">
      Keep and go on <kbd>Enter</kbd>
    </button>
    <div v-if="question" class="asking" role="alert">
      <p>{{ question }}</p>
      <button type="button" class="btn" @click="question = null">Read it again</button>
      <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
    </div>
  </FormFrame>
  <TestLines :lines="tests.cells" :visit="visit" label="Volts of cells" />
  <p class="small dim">{{ tests.cell_rule }}</p>
</template>

<style scoped>
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
}
.one > .btn {
  margin-top: 20px;
}
.one :deep(.choice) {
  width: 238px;
}
.one :deep(.narrow) {
  width: 100px;
}
.short {
  width: 150px;
}
.asking {
  flex: 1 1 100%;
}
</style>
