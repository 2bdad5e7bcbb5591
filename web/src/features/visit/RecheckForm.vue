<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import { computed, reactive } from 'vue';

const props = defineProps<{
  /** What is looked at again later. */
  rechecks: Schemas['RechecksView'];
  /** The visit. */
  visit: Visit;
}>();
const WHEN = [
  { value: '12', label: 'overnight' },
  { value: '24', label: 'in 24 hours' },
  { value: '48', label: 'in 48 hours' },
  { value: '72', label: 'in 3 days' },
  { value: '168', label: 'in a week' },
  { value: '336', label: 'in 2 weeks' },
];
const form = reactive({ step: null as Schemas['Step'] | null, hours: '24', reason: '' });
const steps = computed(() => props.rechecks.choices.map((c) => ({ value: c.step, label: c.title })));
async function ask(): Promise<void> {
  if (!form.step) return;
  const asked = await props.visit.say({ kind: 'recheck', ...form, step: form.step });
  if (asked === null) Object.assign(form, { step: null, reason: '' });
}
const take = (offer: Schemas['RecheckOffer']) =>
  props.visit.say({ kind: 'recheck', step: offer.step, hours: offer.hours, reason: offer.why });
</script>

<template>
  <section aria-label="Rechecks">
    <h2>To be looked at again</h2>
    <ul>
      <li v-for="r in rechecks.asked" :key="r.entry">
        <p class="grow">
          <b>{{ r.title }}</b>, {{ r.day }}. {{ r.reason }} <span class="small dim">{{ r.by }}</span>
        </p>
        <button
          v-if="visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`Not needed: ${r.title}`"
          @click="visit.takeBack(r.entry, 'The recheck is taken off the list.')"
        >
          Not needed
        </button>
      </li>
      <template v-if="visit.open.value">
        <li v-for="o in rechecks.wanted" :key="o.step">
          <p class="grow">
            {{ o.title }}, {{ o.when }}? <span class="small">{{ o.why }}</span>
          </p>
          <button
            type="button"
            class="btn sm"
            :aria-label="`Put it on the list: ${o.title}`"
            :disabled="visit.saving.value"
            @click="take(o)"
          >
            Put it on the list
          </button>
        </li>
      </template>
    </ul>
    <FormFrame v-if="visit.open.value" class="ask" :failure="visit.failure.value" elsewhere @submit="ask">
      <ChoiceField
        v-model="form.step"
        label="What"
        :options="steps"
        :error="visit.fault('step', 'recheck')"
      />
      <ChoiceField
        v-model="form.hours"
        label="When"
        :options="WHEN"
        :error="visit.fault('hours', 'recheck')"
      />
      <TextField v-model="form.reason" class="why" label="Why" />
      <button type="submit" class="btn" :disabled="!form.step || visit.saving.value">
        Put it on the list
      </button>
    </FormFrame>
    <p v-else-if="!rechecks.asked.length" class="small dim">Nothing.</p>
  </section>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
  min-height: 38px;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin-top: 6px;
}
.ask :deep(.choice) {
  width: 190px;
}
.why {
  flex: 1 1 180px;
}
@media (max-width: 720px) {
  .ask > * {
    flex: 1 1 140px;
    width: auto;
  }
  .ask :deep(.choice) {
    flex: 1 1 150px;
    width: auto;
  }
}
</style>
