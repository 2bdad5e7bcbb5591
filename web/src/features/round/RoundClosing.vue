<script setup lang="ts">
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import PlanView from '@/components/plan/PlanView.vue';
import StringSwitch from '@/components/plan/StringSwitch.vue';
import CellWords from '@/components/ui/CellWords.vue';
import EvidenceLine from '@/components/ui/EvidenceLine.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { usePhone } from '@/composables/usePhone';
import type { useRound } from './useRound';
import { planCells } from '@/logic/planCells';
import { computed, ref } from 'vue';
import PutRight from './PutRight.vue';

const props = defineProps<{
  /** A finished round. */
  page: Schemas['RoundPage'];
  /** The same, for what is put right later. */
  round: ReturnType<typeof useRound>;
}>();
defineEmits<{ conditions: [] }>();
const phone = usePhone();
const cells = computed(() => planCells(props.page.cells.map((c) => c.view)));
const selected = ref<string | null>(null);
const string = ref(0);
const strings = computed(() => new Set(props.page.plan.rows.map((r) => r.string)).size);
const entries = computed(() => props.page.cells.find((c) => c.view.cell === selected.value)?.entries ?? []);
</script>

<template>
  <div class="closing">
    <WhereLine
      :place="page.site"
      :parts="[
        page.name,
        page.description,
        `round of ${page.day}`,
        page.finished_by && `finished by ${page.finished_by}`,
      ]"
    >
      <button v-if="page.opened" type="button" class="btn sm" @click="$emit('conditions')">Conditions</button>
      <a class="btn sm" :href="`/api/rounds/${page.id}/export.csv`">CSV</a>
      <a class="btn sm" :href="`/api/rounds/${page.id}/export.json`">JSON</a>
      <RouterLink v-if="page.visit" class="btn sm" :to="`/visits/${page.visit}`">The visit</RouterLink>
      <RouterLink class="btn sm go" :to="`/banks/${page.bank}`">To the bank</RouterLink>
    </WhereLine>
    <h1><CellWords :text="page.verdict" /></h1>
    <EvidenceLine :items="page.evidence" />
    <StringSwitch v-if="phone" v-model="string" class="switch" :plan="page.plan" />
    <PlanView
      :plan="page.plan"
      :cells="cells"
      :selected="selected"
      :median="page.median_figure ?? null"
      :band="page.median_figure ? page.steady_points : null"
      :most="phone ? 12 : 99"
      :string="phone && strings > 1 ? string : null"
      :height="phone ? 560 : 400"
      :label="`Plan of the round of ${page.day}`"
      @pick="selected = $event"
    />
    <section v-if="selected" class="record">
      <h2>{{ selected }}: everything that was entered</h2>
      <ul>
        <li v-for="e in entries" :key="e.id">
          <b class="fig">{{ e.says }}</b> {{ e.person }} on {{ e.device
          }}<span v-if="!e.standing" class="dim">, replaced</span>
        </li>
      </ul>
      <p v-if="!entries.length" class="dim">Nothing was entered here.</p>
      <PutRight :key="selected" :cell="selected" :round="round" />
    </section>
    <h2 style="margin-top: 16px">Findings</h2>
    <FindingList :findings="page.findings" @pick="selected = $event" />
  </div>
</template>

<style scoped>
.closing {
  max-width: 1000px;
}
.switch {
  margin: 8px 0;
}
.record {
  border-top: 1px solid var(--line);
  padding: 10px 0;
}
@media (max-width: 720px) {
  .closing {
    padding: 12px 16px;
  }
}
</style>
