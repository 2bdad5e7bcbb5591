<script setup lang="ts">
import type { Schemas } from '@/api/client';
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import { usePhone } from '@/composables/usePhone';
import { computed } from 'vue';
import { drawRecord } from './recordOption';

const props = defineProps<{
  /** A year of a record. */
  page: Schemas['RecordPage'];
}>();
defineEmits<{ until: [day: string] }>();
const phone = usePhone();
const HEIGHT = 230;
const option = computed(() => drawRecord(props.page, HEIGHT, phone.value));
const spoken = computed(() =>
  [props.page.verdict, props.page.gap?.said ?? '', ...props.page.facts.map((f) => `${f.label}: ${f.value}`)]
    .filter(Boolean)
    .join(' '),
);
</script>

<template>
  <section class="year">
    <p class="small dim">{{ page.period }}</p>
    <h1>{{ page.verdict }}</h1>
    <p v-if="page.facts.length" class="facts">
      <span v-for="f in page.facts" :key="f.label"
        >{{ f.label }} <b>{{ f.value }}</b></span
      >
    </p>
    <template v-if="page.days.length">
      <div class="head">
        <ChartHead as="h2"
          ><b>Highest charge of each day</b> %; dots are full days, blank is not known</ChartHead
        >
        <nav v-if="page.earlier || page.later" class="years" aria-label="Years">
          <button
            type="button"
            class="btn sm"
            :disabled="!page.earlier"
            @click="page.earlier && $emit('until', page.earlier)"
          >
            Year before
          </button>
          <button
            type="button"
            class="btn sm"
            :disabled="!page.later"
            @click="page.later && $emit('until', page.later)"
          >
            Year after
          </button>
        </nav>
      </div>
      <AxesFrame :spoken="spoken" :option="option" :height="HEIGHT" />
    </template>
    <ul v-if="page.lines.length" class="lines">
      <li v-for="line in page.lines" :key="line">{{ line }}</li>
    </ul>
    <p class="small dim">{{ page.rule }}</p>
    <details v-if="page.days.length">
      <summary>Day by day</summary>
      <ul class="days">
        <li v-for="d in [...page.days].reverse()" :key="d.day">{{ d.said }}</li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
.year h1 {
  max-width: 34em;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  color: var(--ink-2);
  margin: 4px 0 10px;
}
.facts b {
  font-family: var(--mono);
  color: var(--ink);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: baseline;
  justify-content: space-between;
}
.years {
  display: flex;
  gap: 6px;
}
.lines {
  margin: 8px 0;
  max-width: 62em;
}
.lines li {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.days {
  max-height: 320px;
  overflow-y: auto;
  font: var(--t-small);
}
</style>
