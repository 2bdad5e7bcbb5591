<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { reactive } from 'vue';
import type { Visit } from '../useVisit';
import TestLines from './TestLines.vue';
import { sayTest, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
}>();
const empty = { load: '', when_new: '', now: '' };
const form = reactive({ ...empty });
async function keep(): Promise<void> {
  if ((await sayTest(props.visit, { test: 'known_load', ...form })) === null) Object.assign(form, empty);
}
const fault = (field: string): string => props.visit.fault(field, 'test');
</script>

<template>
  <TestLines :lines="tests.known_loads" :visit="visit" label="Known loads" />
  <FormFrame v-if="visit.open.value" class="one" :failure="visit.failure.value" elsewhere @submit="keep()">
    <TextField
      v-model="form.load"
      class="wide"
      label="The load"
      placeholder="fridge and lamps through the night"
      :error="fault('load')"
    />
    <TextField
      v-model="form.when_new"
      figure
      class="short"
      label="Hours when new"
      hint="20 or 20:00"
      :error="fault('when_new')"
    />
    <TextField
      v-model="form.now"
      figure
      class="short"
      label="Hours now"
      hint="17 or 17:00"
      :error="fault('now')"
    />
    <button type="submit" class="btn go" :disabled="visit.saving.value">Keep these hours</button>
  </FormFrame>
  <p class="small dim">
    CT-3: the same load, from full to the same end, as hours now over hours when new. Common practice.
  </p>
</template>

<style scoped>
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
}
.one > .btn {
  margin-top: 20px;
}
.short {
  width: 150px;
}
.wide {
  flex: 1 1 220px;
}
</style>
