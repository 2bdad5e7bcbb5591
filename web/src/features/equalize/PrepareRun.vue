<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import type { EqualizePlan } from './useEqualizePlan';

const props = defineProps<{
  /** The plan that is made a run. */
  prepare: EqualizePlan;
}>();
const store = useMe();
const { asked } = props.prepare;
</script>

<template>
  <FormFrame :failure="prepare.failure.value" elsewhere @submit="prepare.open">
    <ChoiceField
      v-model="asked.instrument"
      label="Read with"
      :options="[
        { value: 'hydrometer', label: 'hydrometer, 5 points' },
        { value: 'refractometer', label: 'refractometer, 5 points' },
        { value: 'digital', label: 'digital meter, 1 point' },
      ]"
    />
    <TextField
      v-model="asked.set_to"
      label="Typed into the charger, V"
      figure
      :error="prepare.fault('set_to') || prepare.fault('pilot') || prepare.fault('person')"
    />
    <button type="submit" class="btn go wide" :disabled="prepare.busy.value">Prepare the run</button>
    <p class="small dim">
      Nothing is switched on yet: the checks come first. Stays with it: {{ store.initials }}.
    </p>
  </FormFrame>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  margin-top: 14px;
}
.wide {
  width: 100%;
  height: 44px;
}
</style>
