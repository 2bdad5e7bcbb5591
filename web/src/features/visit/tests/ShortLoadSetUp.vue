<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import { reactive, ref } from 'vue';
import type { Visit } from '../useVisit';
import { sayTest, type Tests, type TestWhat } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
}>();
const { me } = useMe();
type SetUp = Extract<TestWhat, { test: 'set_up' }>;
const before = props.tests.set_up;
const told = before?.kind === 'test' && before.test.test === 'set_up' ? before.test : null;
const form = reactive({
  load: 'half_capacity' as SetUp['load'],
  rating: '',
  seconds: '15',
  charged: '',
  tester: '',
  ...(told ?? {}),
  temperature: told?.temperature ?? { typed: '', unit: me.temperature },
});
const changing = ref(false);
async function keep(): Promise<void> {
  if ((await sayTest(props.visit, { ...form, test: 'set_up' })) === null) changing.value = false;
}
const fault = (field: string): string => props.visit.fault(field, 'test');
</script>

<template>
  <p v-if="tests.set_up_said && !changing" class="told">
    <b>{{ tests.set_up_said }}</b>
    <button v-if="visit.open.value" type="button" class="btn sm quiet" @click="changing = true">
      Change the load
    </button>
  </p>
  <FormFrame
    v-else-if="visit.open.value"
    class="one"
    :failure="visit.failure.value"
    elsewhere
    @submit="keep()"
  >
    <ChoiceField
      v-model="form.load"
      label="What loads it"
      :options="[
        { value: 'half_capacity', label: 'half the capacity, as amperes' },
        { value: 'half_cranking', label: 'half the cranking rating' },
        { value: 'fixed', label: 'the fixed load of a tester' },
      ]"
    />
    <TextField
      v-if="form.load === 'half_cranking'"
      v-model="form.rating"
      figure
      class="short"
      label="Cranking rating, A"
      :error="fault('rating')"
    />
    <TextField
      v-model="form.seconds"
      figure
      class="short"
      label="Seconds"
      hint="10 or 15"
      :error="fault('seconds')"
    />
    <TextField
      v-model="form.temperature.typed"
      figure
      class="short"
      :label="`Batteries at, °${form.temperature.unit}`"
      placeholder="not taken"
      :error="fault('temperature')"
    />
    <TextField
      v-model="form.charged"
      figure
      class="short"
      label="Charged, %"
      placeholder="not known"
      hint="under 75 % it tells nothing"
      :error="fault('charged')"
    />
    <TextField v-model="form.tester" class="wide" label="The tester" placeholder="carbon pile, clamp meter" />
    <button type="submit" class="btn go" :disabled="visit.saving.value">Load with this</button>
  </FormFrame>
</template>

<style scoped>
.told {
  display: flex;
  gap: 10px;
  align-items: center;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
}
.one > .btn {
  margin-top: 20px;
}
.one :deep(.choice) {
  width: 250px;
}
.short {
  width: 140px;
}
.wide {
  flex: 1 1 180px;
}
@media (max-width: 720px) {
  .one > * {
    flex: 1 1 140px;
    width: auto;
  }
}
</style>
