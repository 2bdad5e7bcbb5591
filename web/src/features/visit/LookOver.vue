<script setup lang="ts">
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { computed, ref } from 'vue';
import CautionList from './CautionList.vue';
import ChargersSet from './ChargersSet.vue';
import FoundForm from './FoundForm.vue';
import LookLine from './LookLine.vue';
import OpenBefore from './OpenBefore.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'look_over'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
/** The check whose finding is being noted. */
const noting = ref<Schemas['Check'] | null>(null);
const left = computed(() => props.step.checks.filter((c) => !c.looks.length && !c.not_here));
const found = computed(() => props.step.checks.flatMap((c) => c.looks).filter((l) => l.found).length);
const headline = computed(() => {
  if (left.value.length === props.step.checks.length)
    return 'Look before you measure: dirt predicts trouble.';
  const things = found.value === 1 ? 'One thing found' : `${found.value || 'Nothing'} found`;
  return left.value.length ? `${things} so far, ${left.value.length} still to look at.` : `${things}.`;
});

const absent = (check: Schemas['Check']): void => void props.visit.say({ kind: 'not_here', check });
const fine = (check: Schemas['Check']): void => void props.visit.say({ kind: 'checked', check, found: null });
/** What is open from before is looked at by itself. */
const others = computed(() => left.value.filter((c) => !c.open_before.length));
async function rest(): Promise<void> {
  // What the last visit said the bank is without is not called fine.
  for (const { check, none_before } of others.value)
    await props.visit.say(
      none_before ? { kind: 'not_here', check } : { kind: 'checked', check, found: null },
    );
}
</script>

<template>
  <h1>{{ headline }}</h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ul class="checks">
    <li v-for="c in step.checks" :key="c.check">
      <div class="head">
        <h2>{{ c.said }}</h2>
        <span class="grow" />
        <template v-if="visit.open.value">
          <button
            type="button"
            class="btn"
            :class="{ go: c.looks.length && !c.looks.some((l) => l.found) }"
            :aria-pressed="c.looks.length > 0 && !c.looks.some((l) => l.found)"
            :aria-label="`${c.said}: ${c.looks.some((l) => l.found) ? 'the rest is fine' : 'fine'}`"
            @click="fine(c.check)"
          >
            {{ c.looks.some((l) => l.found) ? 'Rest fine' : 'Fine' }}
          </button>
          <button
            v-if="c.can_be_absent"
            type="button"
            class="btn"
            :class="{ go: c.not_here }"
            :aria-pressed="!!c.not_here"
            :aria-label="`${c.said}: none here`"
            @click="absent(c.check)"
          >
            None here
          </button>
          <button
            type="button"
            class="btn"
            :aria-expanded="noting === c.check"
            :aria-label="`${c.said}: found something`"
            @click="noting = noting === c.check ? null : c.check"
          >
            Found
          </button>
        </template>
      </div>
      <p v-if="c.none_before && !c.not_here && !c.looks.length" class="small dim">last time: none here</p>
      <p v-for="l in c.last_time" :key="l" class="small dim">last time: {{ l }}</p>
      <ul v-if="c.open_before.length" :aria-label="`${c.said}: still open`">
        <OpenBefore
          v-for="b in c.open_before"
          :key="`${b.place} ${b.kind}`"
          :check="c"
          :before="b"
          :visit="visit"
        />
      </ul>
      <ul v-if="c.looks.length" :aria-label="`${c.said}: seen`">
        <LookLine
          v-for="(l, i) in c.looks"
          :key="l.entry"
          :check="c"
          :look="l"
          :visit="visit"
          :beside="c.looks.some((o) => o.found)"
          :pictured="c.looks.findIndex((o) => o.found && o.place === l.place) === i"
        />
      </ul>
      <FoundForm
        v-if="noting === c.check"
        :key="c.check"
        :check="c"
        :visit="visit"
        :plan="page.plan"
        @close="noting = null"
      />
    </li>
  </ul>
  <ChargersSet :sources="step.sources" :bank="page.bank" :open="visit.open.value" />
  <p v-if="others.length > 1 && left.length < step.checks.length && visit.open.value" class="rest">
    <button type="button" class="btn" @click="rest">The other {{ others.length }} are fine, I looked</button>
  </p>
</template>

<style scoped>
.checks > li {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
.head {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.rest {
  margin-top: 12px;
}
@media (max-width: 720px) {
  .head .grow {
    display: none;
  }
  .head h2 {
    flex: 1 1 100%;
  }
  .head .btn {
    flex: 1;
  }
}
</style>
