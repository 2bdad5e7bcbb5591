<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import RadioField from '@/components/form/RadioField.vue';
import TextField from '@/components/form/TextField.vue';
import { allowSound } from '@/composables/alarm';
import type { Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Visit } from '../useVisit';
import { sayTest, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const { me } = useMe();
const router = useRouter();
const WHOLE = 'bank';
const batteries = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const strings = computed(() => [...new Set(batteries.value.map((b) => b[0]!))]);
const places = computed(() => [
  { value: WHOLE, label: 'the bank' },
  ...(strings.value.length > 1 ? strings.value.map((s) => ({ value: s, label: `string ${s}` })) : []),
  ...(batteries.value.length > 1 ? batteries.value.map((b) => ({ value: b, label: `battery ${b}` })) : []),
]);
const how = ref<'here' | 'noted'>('here');
const form = reactive({
  place: WHOLE,
  amperes: props.tests.usual_currents[1]?.amperes ?? props.tests.usual_currents[0]?.amperes ?? '',
  end_per_cell: '1.75',
  temperature: { typed: '', unit: me.temperature },
  proven_full: false,
  every_minutes: '15',
});
const noted = reactive({ hours: '', reached_end: true });
const volts = reactive<Record<string, string>>({});
const place = computed(() => (form.place === WHOLE ? '' : form.place));
const under = computed(() => batteries.value.filter((b) => form.place === WHOLE || b.startsWith(form.place)));
async function go(): Promise<void> {
  const { amperes, end_per_cell, temperature, proven_full, every_minutes } = form;
  const plan = { amperes, end_per_cell, temperature, proven_full, every_minutes };
  if (how.value === 'here') {
    allowSound();
    const said = await sayTest(props.visit, { test: 'discharge_begun', plan }, place.value);
    if (said === null) await router.push(`/visits/${props.visit.id}/discharge`);
    return;
  }
  const read = under.value.map((battery) => ({ battery, volts: volts[battery] ?? '' }));
  const test = { test: 'discharge_noted' as const, plan, ...noted, batteries: read };
  if ((await sayTest(props.visit, test, place.value)) === null) noted.hours = '';
}
const fault = (field: string): string => props.visit.fault(field, 'test');
</script>

<template>
  <FormFrame class="one" :failure="visit.failure.value" elsewhere @submit="go()">
    <RadioField
      v-model="how"
      class="wide"
      label="Timed"
      :options="[
        { value: 'here', label: 'here, by its clock' },
        { value: 'noted', label: 'elsewhere, by a watch' },
      ]"
    />
    <ChoiceField v-if="places.length > 1" v-model="form.place" label="What is discharged" :options="places" />
    <TextField
      v-model="form.amperes"
      figure
      class="short"
      label="Current, A"
      hint="empty: the system’s own load, read from time to time"
      :error="fault('amperes')"
    />
    <div class="usual wide" role="group" aria-label="Usual currents">
      <button
        v-for="u in tests.usual_currents"
        :key="u.amperes + u.said"
        type="button"
        class="btn sm"
        :aria-pressed="form.amperes === u.amperes"
        @click="form.amperes = u.amperes"
      >
        <b class="fig">{{ u.amperes }}</b>&nbsp;A, {{ u.said }}
      </button>
    </div>
    <TextField
      v-model="form.end_per_cell"
      figure
      class="short"
      label="Ends at, V a cell"
      :error="fault('end_per_cell')"
    />
    <TextField
      v-model="form.temperature.typed"
      figure
      class="short"
      :label="`Electrolyte or case at the start, °${form.temperature.unit}`"
      placeholder="not taken"
      hint="without it no percentage is told"
      :error="fault('temperature')"
    />
    <TextField
      v-if="how === 'here'"
      v-model="form.every_minutes"
      figure
      class="short"
      label="Minutes between readings"
      :error="fault('every_minutes')"
    />
    <template v-else>
      <TextField
        v-model="noted.hours"
        figure
        class="short"
        label="It lasted, h:mm"
        hint="5:12 or 5.2"
        :error="fault('hours')"
      />
      <CheckField v-model="noted.reached_end" label="It reached its end voltage" />
      <div class="usual wide">
        <TextField
          v-for="(b, i) in under"
          :key="b"
          v-model="volts[b]"
          figure
          class="short"
          :label="`${b} near the end, V`"
          placeholder="not read"
          :error="fault(`batteries[${i}].volts`)"
        />
      </div>
    </template>
    <CheckField
      v-model="form.proven_full"
      class="wide"
      label="Proven full before: charged until nothing rose any more"
    />
    <button type="submit" class="btn go" :disabled="visit.saving.value">
      {{ how === 'here' ? 'The load is on: begin' : 'Keep this discharge' }}
    </button>
  </FormFrame>
</template>

<style scoped>
.one,
.usual {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
}
.wide {
  flex: 1 1 100%;
}
.short {
  width: 190px;
}
.usual [aria-pressed='true'] {
  border-color: var(--action);
  background: var(--action-tint);
}
@media (max-width: 720px) {
  .one > .short,
  .one > .btn {
    flex: 1 1 100%;
    width: auto;
  }
}
</style>
