<script setup lang="ts">
import type { Schemas } from '@/api/client';
import BankFindings from './BankFindings.vue';
import BankPlan from './BankPlan.vue';
import CellPanel from './CellPanel.vue';
import SmallTrend from '@/components/chart/SmallTrend.vue';
import CellWords from '@/components/ui/CellWords.vue';
import EvidenceLine from '@/components/ui/EvidenceLine.vue';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ begin: [only: Schemas['Step']] }>();
const route = useRoute();
const stringOf = (cell: string | undefined): number =>
  props.page.plan.rows.find((r) => r.batteries.some((b) => b.cells.includes(cell ?? '')))?.string ?? 0;
const selected = ref<string | null>((route.query.cell as string | undefined) ?? null);
// First the string with the worst cell.
const string = ref(stringOf(selected.value ?? props.page.findings.find((f) => f.cells.length)?.cells[0]));
/** Selects a cell and brings its string into sight. */
function show(cell: string): void {
  selected.value = cell;
  string.value = stringOf(cell);
}
const view = computed(() => props.page.cells.find((c) => c.cell === selected.value) ?? null);
</script>

<template>
  <div class="cols">
    <section class="main">
      <h1><CellWords :text="page.verdict" /></h1>
      <EvidenceLine :items="page.evidence" />
      <BankPlan v-model:selected="selected" v-model:string="string" :page="page" />
      <CellPanel
        v-if="view"
        :key="view.cell"
        :bank="page.bank.id"
        :view="view"
        :doubt="page.cell_doubt ?? null"
        @close="selected = null"
      />
      <p v-if="page.laggards" class="laggards">{{ page.laggards }}</p>
      <div v-if="page.trends.length" class="trends">
        <SmallTrend v-for="t in page.trends" :key="t.title" :trend="t" />
      </div>
    </section>
    <BankFindings class="side" :page="page" @pick="show" @begin="$emit('begin', $event)" />
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 0 22px;
  margin-top: 2px;
}
.laggards {
  margin-top: 10px;
  color: var(--act-text);
}
.trends {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 28px;
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 18px;
  margin-top: 6px;
  min-width: 0;
}
@media (max-width: 980px) {
  /* One column: the findings follow the plan, the years come last. */
  .cols {
    display: flex;
    flex-direction: column;
  }
  .main {
    display: contents;
  }
  .side {
    border-left: 0;
    padding-left: 0;
    margin-top: 18px;
    order: 1;
  }
  .trends {
    order: 2;
  }
}
</style>
