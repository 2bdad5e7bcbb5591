<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import BreakdownTable from '@/components/equalize/BreakdownTable.vue';
import TypedField from '@/components/ui/TypedField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useBench } from '@/composables/useBench';
import { reactive } from 'vue';

const typed = reactive<Schemas['TypedGassing']>({
  construction: 'flooded',
  cells: '24',
  capacity: '840',
  stage: 'equalize',
  current: '',
  enclosure: '',
});
const { answer, failure, fault } = useBench(
  () => ({ ...typed }),
  () => need(api.POST('/api/bench/ventilation', { body: { ...typed } })),
);
</script>

<template>
  <div class="bench">
    <form class="ask" @submit.prevent>
      <div class="field">
        <label for="v-kind">Construction</label>
        <select id="v-kind" v-model="typed.construction" class="text">
          <option value="flooded">flooded</option>
          <option value="flooded_tubular">flooded tubular</option>
          <option value="agm">AGM</option>
          <option value="gel">gel</option>
        </select>
      </div>
      <div class="field">
        <label for="v-stage">Stage</label>
        <select id="v-stage" v-model="typed.stage" class="text">
          <option value="float">float</option>
          <option value="absorption">absorption</option>
          <option value="equalize">equalize</option>
        </select>
      </div>
      <TypedField id="v-cells" v-model="typed.cells" label="Cells in series" :fault="fault('cells')" />
      <TypedField
        id="v-capacity"
        v-model="typed.capacity"
        label="Capacity of the whole bank, Ah"
        :fault="fault('capacity')"
      />
      <TypedField
        id="v-current"
        v-model="typed.current"
        label="Actual current, A"
        hint="empty: what the standard plans with"
        :fault="fault('current')"
      />
      <TypedField
        id="v-air"
        v-model="typed.enclosure"
        label="Air around it, m³"
        hint="empty: no time to 1 % is told"
        :fault="fault('enclosure')"
      />
    </form>
    <section aria-live="polite">
      <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
      <template v-if="answer">
        <p class="big">
          <b class="fig">{{ answer.airflow.toFixed(1) }}</b> m³ of air an hour
        </p>
        <p class="said">{{ answer.said }}</p>
        <BreakdownTable :lines="answer.breakdown" />
        <p class="small dim">{{ answer.rule }}</p>
      </template>
      <p v-else-if="failure" class="dim">No answer until the marked figures are put right.</p>
    </section>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 420px) minmax(0, 560px);
  gap: 0 36px;
}
.ask {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-content: start;
}
.big .fig {
  font: 600 42px/46px var(--mono);
}
.said {
  margin: 8px 0 12px;
}
@media (max-width: 900px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
    gap: 20px;
  }
}
@media (max-width: 480px) {
  .ask {
    grid-template-columns: 1fr;
  }
}
</style>
