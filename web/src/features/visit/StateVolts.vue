<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import { computed, reactive, ref, watch } from 'vue';

const props = defineProps<{
  /** The rest check. */
  rest: Schemas['RestView'];
  /** The visit. */
  visit: Visit;
  /** Batteries in the order of the plan. */
  order: string[];
}>();
const WHOLE = 'bank';
const empty = { typed: '', hours: '', amperes: '', note: '' };
const form = reactive({ ...empty, state: 'on_charge' as Schemas['VoltsState'], place: WHOLE });
const question = ref<string | null>(null);
watch(form, () => (question.value = null));
const places = computed(() => [
  { value: WHOLE, label: 'the bank' },
  ...(props.rest.strings.length > 1
    ? props.rest.strings.map((s) => ({ value: s.letter, label: `string ${s.letter}` }))
    : []),
  ...props.order.map((b) => ({ value: b, label: `battery ${b}` })),
]);
const chosen = computed(() => props.rest.states.find((s) => s.state === form.state));
async function keep(stands = false): Promise<void> {
  const { place, ...what } = form;
  const hours = chosen.value?.has_hours ? what.hours : '';
  const asked = await props.visit.say(
    { kind: 'state_volts', ...what, hours, stands },
    place === WHOLE ? '' : place,
  );
  if (asked === null) Object.assign(form, empty);
  else if (asked) question.value = asked;
}
const fault = (field: string): string => props.visit.fault(field, 'state_volts');
</script>

<template>
  <details class="states" :open="!!rest.by_state.length || undefined">
    <summary>Volts in another state: on charge, just off it, with a load</summary>
    <ul v-if="rest.by_state.length" aria-label="Volts by state">
      <li v-for="line in rest.by_state" :key="line.entry">
        <p class="fig volts">{{ line.volts }}</p>
        <div class="grow">
          <p>
            <b>{{ line.state }}</b>, {{ line.place }}
          </p>
          <p class="small">
            {{
              [line.tells, line.per_twelve, line.before && `last time ${line.before}`]
                .filter(Boolean)
                .join('; ')
            }}.
            <span class="dim">{{ line.by }}</span>
          </p>
        </div>
        <button
          v-if="visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`Wrong entry: ${line.volts}, ${line.state}`"
          @click="visit.takeBack(line.entry, 'The reading is taken back.')"
        >
          Wrong entry
        </button>
      </li>
    </ul>
    <FormFrame v-if="visit.open.value" class="one" :failure="visit.failure.value" elsewhere @submit="keep()">
      <ChoiceField
        v-model="form.state"
        label="State"
        :options="rest.states.map((s) => ({ value: s.state, label: s.said }))"
      />
      <ChoiceField v-model="form.place" label="Where" :options="places" />
      <TextField v-model="form.typed" label="Volts" figure class="short" :error="fault('typed')" />
      <TextField
        v-if="chosen?.has_hours"
        v-model="form.hours"
        label="Hours at rest"
        placeholder="unknown"
        figure
        class="short"
        :error="fault('hours')"
      />
      <template v-else>
        <TextField
          v-model="form.amperes"
          label="Amperes"
          placeholder="not shown"
          figure
          class="short"
          :error="fault('amperes')"
        />
        <TextField v-model="form.note" class="wide" label="What charges or draws" />
      </template>
      <button type="submit" class="btn" :disabled="visit.saving.value">Keep these volts</button>
      <div v-if="question" class="asking" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Read it again</button>
        <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
      </div>
    </FormFrame>
  </details>
</template>

<style scoped>
.states {
  border-top: 1px solid var(--line);
  padding: 8px 0 10px;
}
summary {
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 5px 0;
}
.volts {
  font-size: 18px;
  min-width: 84px;
  text-align: right;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
  padding-top: 6px;
}
/* In line with the boxes, whose labels stand over them. */
.one > .btn {
  margin-top: 20px;
}
.one :deep(.choice) {
  width: 176px;
}
.short {
  width: 140px;
}
.wide {
  flex: 1 1 180px;
}
.asking {
  flex: 1 1 100%;
}
@media (max-width: 720px) {
  .one > * {
    flex: 1 1 140px;
    width: auto;
  }
  .one :deep(.choice) {
    flex: 1 1 150px;
    width: auto;
  }
}
</style>
