<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Schemas } from '@/api/client';
import type { Visit, VisitPage } from './useVisit';
import type { StepOf } from './visitSteps';
import { defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import CautionList from './CautionList.vue';
import PhotoStrip from './PhotoStrip.vue';

// What it needs to be read with comes with a replacement alone.
const PolarityRead = defineAsyncComponent(() => import('./PolarityRead.vue'));

const props = defineProps<{
  /** The step. */
  step: StepOf<'job'>;
  /** The visit. */
  visit: Visit;
  /** Its page. */
  page: VisitPage;
}>();
const route = useRoute();
const router = useRouter();
type Line = Schemas['JobLineView'];
/** How a line is marked: what is done is steady, what is open stands bare. */
const MARK = { open: 'no_reading', part: 'watch', done: 'steady', not_wanted: 'steady' } as const;
function tick(line: Line): void {
  void props.visit.say(
    line.entry
      ? { kind: 'withdrawn', entry: line.entry }
      : line.work
        ? { kind: 'done', work: line.work }
        : { kind: 'job_task', task: line.task },
  );
}
const missing = (line: Line): void =>
  void props.visit.say({ kind: 'job_task', task: line.task, none_here: true });
const recheck = (): void => void props.visit.say({ kind: 'recheck', step: 'rest_check', hours: '24' });
function go(step: Schemas['Step']): void {
  void router.replace({ query: { ...route.query, step } });
}
</script>

<template>
  <template v-if="step.job">
    <h1>
      {{
        step.done === step.of
          ? `${step.job.name}: every line is done.`
          : step.done
            ? `${step.job.name}: ${step.done} of ${step.of} lines done.`
            : `${step.job.name}: ${step.of} lines, in this order.`
      }}
    </h1>
    <p class="about">{{ step.job.about }}</p>
    <CautionList :cautions="step.cautions" :visit="visit" />
    <ol class="job">
      <li v-for="(line, n) in step.job.lines" :key="line.task" :class="line.state">
        <span class="number">{{ n + 1 }}</span>
        <CheckField
          v-if="line.by === 'tick'"
          class="grow"
          :model-value="line.state === 'done'"
          :disabled="!visit.open.value || visit.saving.value"
          @change="tick(line)"
          >{{ line.said }}</CheckField
        >
        <template v-else>
          <ConditionMark class="mark" :condition="MARK[line.state]" :size="20" />
          <span class="grow"
            >{{ line.said }}<span v-if="line.state === 'open'" class="visually-hidden"> (open)</span></span
          >
        </template>
        <span v-if="line.done" class="small dim">{{ line.done }}</span>
        <template v-if="visit.open.value && !line.done">
          <button
            v-if="line.by === 'tick' && line.may_be_missing && line.state === 'open'"
            type="button"
            class="btn sm quiet"
            :disabled="visit.saving.value"
            @click="missing(line)"
          >
            None here<span class="visually-hidden">: {{ line.said }}</span>
          </button>
          <button
            v-if="line.by === 'recheck'"
            type="button"
            class="btn sm"
            :disabled="visit.saving.value"
            @click="recheck"
          >
            Put it down for tomorrow
          </button>
        </template>
        <button v-if="line.step" type="button" class="btn sm quiet" @click="go(line.step)">
          {{ line.step_name }}<span class="visually-hidden">: {{ line.said }}</span>
        </button>
        <RouterLink v-if="line.by === 'record'" class="btn sm quiet" :to="`/banks/${page.bank}/batteries`"
          >Batteries of the bank</RouterLink
        >
        <PhotoStrip
          v-if="line.by === 'photograph'"
          class="photographs"
          :visit="visit"
          what="wiring"
          press="Photograph the wiring"
        />
      </li>
    </ol>
    <p v-if="visit.failure.value?.fields.task" class="act-text" role="alert">
      {{ visit.failure.value.fields.task }}
    </p>
    <PolarityRead v-if="step.job.polarity.length" :rows="step.job.polarity" :visit="visit" />
  </template>
</template>

<style scoped>
/* As far from its words as the box of a tick. */
.mark {
  margin-right: -6px;
}
.about {
  color: var(--ink-2);
  margin: 2px 0 8px;
  max-width: 44em;
}
.job {
  margin-top: 8px;
}
.job li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
  min-height: 42px;
}
.number {
  font: 600 14px/20px var(--mono);
  color: var(--ink-2);
  width: 22px;
  text-align: right;
}
.grow {
  flex: 1 1 16em;
  font: var(--t-body);
}
.photographs {
  flex: 1 1 100%;
  margin-left: 34px;
}
.job li.not_wanted .grow {
  color: var(--ink-2);
}
@media (max-width: 720px) {
  .job li {
    min-height: 48px;
  }
  .mark {
    margin: 0 0 0 2px;
  }
  /* Under the words of its line. */
  .job li > .small {
    flex-basis: 100%;
    padding-left: 66px;
  }
  .job li > .btn {
    margin-left: 58px;
  }
  .grow {
    flex-basis: calc(100% - 80px);
  }
}
</style>
