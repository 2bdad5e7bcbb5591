<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { computed, reactive, ref } from 'vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import CautionList from './CautionList.vue';
import PhotoStrip from './PhotoStrip.vue';
import PlaceGrid from './PlaceGrid.vue';

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
const draft = reactive({ place: '', kind: '', severity: '' as '' | 'watch' | 'act', note: '', measured: '' });
const left = computed(() => props.step.checks.filter((c) => !c.looks.length));
const found = computed(() => props.step.checks.flatMap((c) => c.looks).filter((l) => l.found).length);
const headline = computed(() => {
  if (left.value.length === props.step.checks.length)
    return 'Look before you measure: dirt predicts trouble.';
  const things = found.value === 1 ? 'One thing found' : `${found.value || 'Nothing'} found`;
  return left.value.length ? `${things} so far, ${left.value.length} still to look at.` : `${things}.`;
});

function note(check: Schemas['CheckView']): void {
  noting.value = noting.value === check.check ? null : check.check;
  Object.assign(draft, { place: '', kind: check.kinds[0]?.key ?? '', severity: '', note: '', measured: '' });
}
const fine = (check: Schemas['Check'], place = ''): void =>
  void props.visit.say({ kind: 'checked', check, found: null }, place);
async function keep(check: Schemas['CheckView']): Promise<void> {
  const stored = await props.visit.say(
    {
      kind: 'checked',
      check: check.check,
      found: { kind: draft.kind, severity: draft.severity || null, note: draft.note },
      measured: draft.measured || null,
    },
    draft.place,
  );
  if (stored === null) noting.value = null;
}
/** What is open from before is looked at by itself. */
const others = computed(() => left.value.filter((c) => !c.open_before.length));
async function rest(): Promise<void> {
  for (const check of others.value)
    await props.visit.say({ kind: 'checked', check: check.check, found: null });
}
const fault = (field: string): string => props.visit.failure.value?.fields[field] ?? '';
</script>

<template>
  <h1>{{ headline }}</h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ul class="checks">
    <li v-for="c in step.checks" :key="c.check">
      <div class="head">
        <h2>{{ c.said }}</h2>
        <span v-for="b in c.open_before" :key="b" class="small before">still open: {{ b }}</span>
        <span class="grow" />
        <template v-if="visit.open.value">
          <button
            type="button"
            class="btn"
            :class="{ go: c.looks.length && !c.looks.some((l) => l.found) }"
            :aria-pressed="c.looks.length > 0 && !c.looks.some((l) => l.found)"
            :aria-label="`${c.said}: fine`"
            @click="fine(c.check)"
          >
            Fine
          </button>
          <button
            type="button"
            class="btn"
            :aria-expanded="noting === c.check"
            :aria-label="`${c.said}: found something`"
            @click="note(c)"
          >
            Found
          </button>
        </template>
      </div>
      <ul v-if="c.looks.length" class="looks">
        <li v-for="l in c.looks" :key="l.entry">
          <template v-if="l.found">
            <ConditionMark :condition="l.severity" />
            <div class="grow">
              <p>
                <b>{{ l.place_said }}</b>, {{ l.found }}<template v-if="l.note">: {{ l.note }}</template>
                {{ ' ' }}<span class="small dim">{{ l.by }}</span>
              </p>
              <p class="small">
                <b>{{ c.advice }}</b>
              </p>
              <PhotoStrip
                :visit="visit"
                what="finding"
                :subject="c.check"
                :place="l.place"
                press="Photograph it"
              />
            </div>
            <button
              v-if="visit.open.value"
              type="button"
              class="btn sm"
              :aria-label="`${c.said} ${l.place_said}: put right`"
              @click="fine(c.check, l.place)"
            >
              Put right
            </button>
          </template>
          <span v-else class="small dim"
            >{{ l.place_said }} fine{{ l.note ? `, ${l.note}` : '' }}, {{ l.by }}</span
          >
        </li>
      </ul>
      <FormFrame
        v-if="noting === c.check"
        aria-label="What was found"
        class="note"
        :failure="visit.failure.value"
        elsewhere
        @submit="keep(c)"
      >
        <div class="field wide">
          <span class="label">Where</span>
          <PlaceGrid v-model="draft.place" :plan="page.plan" />
          <span class="fault">{{ fault('place') }}</span>
        </div>
        <div class="field wide">
          <span class="label">What</span>
          <div class="chips" role="group" aria-label="What was found">
            <button
              v-for="k in c.kinds"
              :key="k.key"
              type="button"
              class="btn"
              :class="{ go: draft.kind === k.key }"
              :aria-pressed="draft.kind === k.key"
              @click="draft.kind = k.key"
            >
              {{ k.said }}
            </button>
          </div>
        </div>
        <ChoiceField
          v-model="draft.severity"
          label="How bad"
          :options="[
            { value: '', label: `as usual: ${c.kinds.find((k) => k.key === draft.kind)?.severity}` },
            { value: 'watch', label: 'watch' },
            { value: 'act', label: 'act' },
          ]"
        />
        <TextField
          v-if="c.measures"
          v-model="draft.measured"
          :label="`Measured ${c.measures}`"
          figure
          :error="fault('measured')"
        />
        <TextField v-model="draft.note" class="grow2" label="In your words" />
        <p class="press">
          <button type="submit" class="btn go" :disabled="visit.saving.value">Keep the finding</button>
          <button type="button" class="btn" @click="noting = null">Cancel</button>
        </p>
      </FormFrame>
    </li>
  </ul>
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
.before {
  color: var(--watch-text);
}
.looks > li {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  padding: 6px 0 2px;
}
.note {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  padding: 10px 0 6px;
  align-items: flex-end;
}
.wide {
  flex: 1 1 100%;
}
.grow2 {
  flex: 1 1 240px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.press {
  display: flex;
  gap: 8px;
  flex: 1 1 100%;
}
.rest {
  margin-top: 12px;
}
@media (max-width: 720px) {
  .head .grow {
    display: none;
  }
  .head h2,
  .head .before {
    flex: 1 1 100%;
  }
  .head .btn {
    flex: 1;
  }
}
</style>
