<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { reactive, ref } from 'vue';
import type { Visit } from '../useVisit';
import { sayTest } from './useTests';

const props = defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
  /** The visit. */
  visit: Visit;
}>();
const emit = defineEmits<{ close: [] }>();
const { me } = useMe();
const form = reactive({ volts: '', amperes: '', temperature: { typed: '', unit: me.temperature } });
const batteries = reactive(props.own.mates.map((m) => ({ battery: m.battery, volts: '' })));
const question = ref<string | null>(null);
async function keep(stands = false): Promise<void> {
  const asked = await sayTest(
    props.visit,
    { test: 'discharge_read', ...form, batteries: batteries.map((b) => ({ ...b })), stands },
    props.own.place,
  );
  if (asked === null) emit('close');
  else if (asked) question.value = asked;
}
const fault = (field: string): string => props.visit.fault(field, 'test');
</script>

<template>
  <FormFrame
    class="reading"
    :failure="visit.failure.value"
    elsewhere
    asked
    @submit="keep()"
    @keydown.esc.stop="$emit('close')"
  >
    <h2>A reading</h2>
    <TextField v-model="form.volts" figure :label="`Volts of ${own.place_said}`" :error="fault('volts')" />
    <TextField
      v-model="form.amperes"
      figure
      label="Amperes"
      :placeholder="own.amperes_meant"
      :error="fault('amperes')"
    />
    <div v-if="batteries.length > 1" class="mates">
      <TextField
        v-for="(b, i) in batteries"
        :key="b.battery"
        v-model="b.volts"
        figure
        :label="`${b.battery}, V`"
        :placeholder="own.mates[i]?.volts"
        :error="fault(`batteries[${i}].volts`)"
      />
    </div>
    <TextField
      v-model="form.temperature.typed"
      figure
      :label="`Hottest, °${form.temperature.unit}`"
      placeholder="not read"
      :error="fault('temperature')"
    />
    <div v-if="question" class="asking" role="alert">
      <p>{{ question }}</p>
      <button type="button" class="btn" @click="question = null">Read it again</button>
      <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
    </div>
    <button type="submit" class="btn go" :disabled="visit.saving.value">Keep this reading</button>
    <button type="button" class="btn quiet" @click="$emit('close')">Not now</button>
  </FormFrame>
</template>

<style scoped>
.reading {
  display: grid;
  gap: 8px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 12px;
  margin-top: 10px;
}
.mates {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  gap: 8px;
}
</style>
