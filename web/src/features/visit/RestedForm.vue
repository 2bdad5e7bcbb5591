<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import { useMe } from '@/stores/me';
import { computed, reactive, watch } from 'vue';

const props = defineProps<{
  /** The rest check. */
  rest: Schemas['RestView'];
  /** The visit. */
  visit: Visit;
}>();
const store = useMe();
const degrees = computed(() => (store.me.temperature === 'F' ? '°F' : '°C'));
const form = reactive({
  charging: false,
  loaded: false,
  hours_since_charge: '',
  hours_since_load: '',
  surface_charge_removed: false,
  charged_full: false,
  disconnected: false,
  temperature: '',
  still_draws: '',
});
watch(
  () => props.rest.conditions,
  (c, before) => {
    if (c?.kind !== 'rested' || before) return;
    Object.assign(form, {
      charging: c.charging,
      loaded: c.loaded,
      hours_since_charge: c.hours_since_charge ?? '',
      hours_since_load: c.hours_since_load ?? '',
      surface_charge_removed: c.surface_charge_removed,
      charged_full: c.charged_full,
      disconnected: c.disconnected,
      temperature: c.temperature?.typed ?? '',
      still_draws: c.still_draws,
    });
  },
  { immediate: true },
);
const rested = () =>
  props.visit.say({
    kind: 'rested',
    ...form,
    temperature: form.temperature ? { typed: form.temperature, unit: store.me.temperature } : null,
  });
const { fault } = props.visit;
</script>

<template>
  <FormFrame class="rested" :failure="visit.failure.value" elsewhere @submit="rested">
    <h2>What did it do before?</h2>
    <CheckField v-model="form.charging" label="on charge now" />
    <CheckField v-model="form.loaded" label="under load now" />
    <CheckField v-model="form.charged_full" label="fully charged before" />
    <CheckField v-model="form.disconnected" label="disconnected since" />
    <CheckField v-model="form.surface_charge_removed" label="surface charge burned off by a real load" />
    <TextField
      v-model="form.hours_since_charge"
      placeholder="unknown"
      label="Hours since charge"
      figure
      :error="fault('hours_since_charge', 'rested')"
    />
    <TextField
      v-model="form.hours_since_load"
      placeholder="unknown"
      label="Hours since load"
      figure
      :error="fault('hours_since_load', 'rested')"
    />
    <TextField
      v-model="form.temperature"
      :label="`Cases, ${degrees}`"
      figure
      :error="fault('temperature', 'rested')"
    />
    <TextField v-model="form.still_draws" class="wide" label="What still draws" />
    <button v-if="visit.open.value" type="submit" class="btn" :disabled="visit.saving.value">
      {{ rest.conditions ? 'Put it right' : 'Note it' }}
    </button>
    <p class="small grade">
      {{
        rest.conditions
          ? `These volts are ${rest.grade}.`
          : 'Until it is noted, volts are kept and tell no percentage.'
      }}
      {{ rest.wait }}
    </p>
  </FormFrame>
</template>

<style scoped>
.rested {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: flex-end;
  margin: 8px 0 12px;
}
h2 {
  flex: 1 1 100%;
}
.field {
  width: 150px;
}
.wide {
  flex: 1 1 240px;
  width: auto;
}
.grade {
  flex: 1 1 100%;
}
</style>
