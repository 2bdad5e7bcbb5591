<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import { reactive } from 'vue';
import type { Visit } from './useVisit';

const props = defineProps<{
  /** The visit. */
  visit: Visit;
  /** Where, as it is sent. */
  place: string;
  /** Where, as it is said. */
  where: string;
  /** What amounts are measured in. */
  units: { value: Schemas['WaterUnit']; label: string }[];
}>();
const empty = { typed: '', note: '' };
const form = reactive({
  ...empty,
  spill: 'spilled' as Schemas['Spill'],
  unit: props.units[0]!.value,
});
const KINDS: { value: Schemas['Spill']; label: string }[] = [
  { value: 'spilled', label: 'electrolyte spilled' },
  { value: 'overfilled', label: 'filled over the mark' },
  { value: 'drawn_off', label: 'drawn off to the mark' },
];
async function keep(): Promise<void> {
  if ((await props.visit.say({ kind: 'spilled', ...form }, props.place)) === null) Object.assign(form, empty);
}
</script>

<template>
  <details class="spill">
    <summary>Spilled, overfilled or drawn off</summary>
    <p class="small">
      Acid that is spilled is made harmless with bicarbonate, outside the cells only; what a cell lost is not
      put back with water.
    </p>
    <FormFrame class="one" :failure="visit.failure.value" elsewhere @submit="keep">
      <ChoiceField v-model="form.spill" :label="`At ${where}`" :options="KINDS" />
      <TextField
        v-model="form.typed"
        class="short"
        label="How much"
        placeholder="unknown"
        figure
        :error="visit.fault('typed', 'spilled')"
      />
      <ChoiceField v-model="form.unit" class="short" label="Its unit" :options="units" />
      <TextField v-model="form.note" class="grow" label="What was done about it" />
      <button type="submit" class="btn" :disabled="visit.saving.value">Note it</button>
    </FormFrame>
  </details>
</template>

<style scoped>
.spill {
  margin-top: 8px;
}
summary {
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin: 6px 0 10px;
}
.one :deep(.choice) {
  width: 190px;
}
.one .short {
  width: 112px;
}
.grow {
  flex: 1 1 180px;
}
</style>
