<script setup lang="ts">
import type { Schemas } from '@/api/client';
import PlanView, { type PlanCell } from '@/components/plan/PlanView.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { usePhone } from '@/composables/usePhone';
import type { Run, RunPage } from './useRun';
import { computed } from 'vue';
import RunFigures from './RunFigures.vue';
import RunLog from './RunLog.vue';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
  /** What comes after. */
  after: Schemas['AfterView'];
}>();
const phone = usePhone();
const left = computed(() => Math.max(0, props.after.rest_seconds - props.run.since.value));
const back = computed(() =>
  Math.max(0, props.page.take_back_seconds - props.run.since.value / props.page.pace),
);
const rest = computed(() => {
  const minutes = Math.ceil(left.value / 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
});
/** The cells by their deviation, before or after. */
function cells(which: 'before' | 'after'): Map<string, PlanCell> {
  return new Map(
    props.after.cells.map((c) => {
      const { condition, deviation, said } = c[which];
      return [c.cell, { condition, deviation, figure: said, deviationText: null }];
    }),
  );
}
const moved = computed(() =>
  [...props.after.cells].sort((a, b) => a.before.deviation - b.before.deviation).slice(0, 6),
);
const takeBack = (): void => void props.run.say({ what: 'taken_back' });
</script>

<template>
  <div class="after">
    <section class="main">
      <div v-if="back > 0" class="asking">
        <p>Stopped. That can be taken back for {{ Math.ceil(back) }} seconds.</p>
        <button type="button" class="btn" @click="takeBack">Take the stop back</button>
      </div>
      <template v-if="after.finding">
        <p class="outcome">
          <ConditionMark :condition="after.finding.severity" :size="24" /><b
            ><CellWords :text="after.verdict"
          /></b>
        </p>
        <p v-if="after.finding.why" class="small">{{ after.finding.why }}</p>
        <p class="small">{{ after.finding.rule }}. {{ after.finding.source }} {{ after.finding.sure }}</p>
        <h2>Before, {{ after.before_day }}</h2>
        <PlanView
          :plan="page.plan"
          :cells="cells('before')"
          :height="phone ? 300 : 250"
          :most="phone ? 12 : 99"
          :band="after.steady_points"
          :pressable="false"
          label="Deviation of every cell before the run, points"
        />
        <h2>After</h2>
        <PlanView
          :plan="page.plan"
          :cells="cells('after')"
          :height="phone ? 300 : 250"
          :most="phone ? 12 : 99"
          :band="after.steady_points"
          :pressable="false"
          label="Deviation of every cell after the run, points"
        />
        <p class="small dim">Figures are points from the median.</p>
        <ul class="moved">
          <li v-for="c in moved" :key="c.cell">
            <b class="fig">{{ c.cell }}</b> {{ c.said }}
            <span v-if="c.non_responding">, did not answer</span>
          </li>
        </ul>
      </template>
      <ol v-else class="steps">
        <li :class="{ done: left <= 0 }">
          <h3>Let it rest for an hour</h3>
          <p v-if="left > 0">
            <b class="fig">{{ rest }}</b> left. Charger on float, gas clears, gravity settles. Read from
            {{ after.read_from }} on.
          </p>
          <p v-else>It has rested.</p>
        </li>
        <li :class="{ done: after.round_after }">
          <h3>Read every cell</h3>
          <p v-if="after.unread">{{ after.unread }}</p>
          <p v-else>The round after the run says what it did (EQ-5).</p>
          <RouterLink
            class="btn"
            :class="{ go: left <= 0 }"
            :to="`/banks/${page.bank}/round?visit=${page.visit}`"
            >Take the round</RouterLink
          >
        </li>
        <li :class="{ done: after.watered }">
          <h3>Water to the mark</h3>
          <p>
            At most {{ page.water }} boiled off. Fill after the round: water lies on top until it is mixed.
          </p>
          <RouterLink class="btn" :to="`/visits/${page.visit}?step=water`">Note the water</RouterLink>
        </li>
      </ol>
      <RunLog :run="run" :page="page" />
    </section>
    <aside>
      <RunFigures :page="page" />
      <p class="links">
        <RouterLink class="btn wide" :to="`/visits/${page.visit}?step=equalize`">To the visit</RouterLink>
        <RouterLink class="btn wide" :to="`/banks/${page.bank}`">To the bank</RouterLink>
      </p>
    </aside>
  </div>
</template>

<style scoped>
.after {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 270px;
  gap: 0 24px;
  margin-top: 12px;
}
aside {
  border-left: 1px solid var(--line);
  padding-left: 20px;
}
.outcome {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  font: 600 19px/26px var(--text);
}
h2 {
  margin: 14px 0 4px;
}
.steps li {
  border-top: 1px solid var(--line);
  padding: 12px 0;
  display: grid;
  gap: 6px;
  justify-items: start;
}
.steps li.done h3 {
  color: var(--ink-3);
}
.moved {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin-top: 6px;
}
.links {
  display: grid;
  gap: 8px;
  margin-top: 14px;
}
@media (max-width: 720px) {
  .after {
    display: block;
  }
  aside {
    border: 0;
    padding: 0;
    margin-top: 16px;
  }
}
</style>
