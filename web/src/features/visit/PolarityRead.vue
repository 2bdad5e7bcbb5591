<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Visit } from './useVisit';
import { computed, ref, watch } from 'vue';

const props = defineProps<{
  /** Battery by battery. */
  rows: Schemas['PolarityView'][];
  /** The visit. */
  visit: Visit;
}>();
/** Those that came in and are not read are offered first, in the order of the plan. */
const next = (): string =>
  (props.rows.find((r) => r.came_in && !r.volts) ?? props.rows.find((r) => !r.volts) ?? props.rows[0])
    ?.battery ?? '';
const battery = ref(next());
const volts = ref('');
const question = ref<string | null>(null);
watch([battery, volts], () => (question.value = null));
const shown = computed(() => props.rows.filter((r) => r.volts || r.came_in));
async function keep(stands = false): Promise<void> {
  const asked = await props.visit.say({ kind: 'polarity', typed: volts.value, stands }, battery.value);
  if (asked === null) {
    volts.value = '';
    battery.value = next();
  } else question.value = asked ?? null;
}
</script>

<template>
  <section aria-label="Polarity">
    <h2>Polarity, each battery by itself</h2>
    <p class="small">
      Red probe on the post marked positive, nothing joined yet. The meter shows more than nothing.
    </p>
    <FormFrame v-if="visit.open.value" class="one" :failure="visit.failure.value" elsewhere @submit="keep()">
      <ChoiceField
        v-model="battery"
        label="Battery"
        :options="rows.map((r) => ({ value: r.battery, label: r.came_in ? `${r.battery}, new` : r.battery }))"
      />
      <TextField
        v-model="volts"
        label="Volts, with their sign"
        figure
        :error="visit.fault('typed', 'polarity', battery)"
      />
      <button type="submit" class="btn go" :disabled="visit.saving.value">Keep and go on</button>
      <div v-if="question" class="asking" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Read it again</button>
        <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
      </div>
    </FormFrame>
    <ul v-if="shown.length" aria-label="Polarity read">
      <li v-for="r in shown" :key="r.battery">
        <ConditionMark :condition="r.condition" :size="20" />
        <b class="fig">{{ r.battery }}</b>
        <span class="fig">{{ r.volts ? `${r.volts} V` : '' }}</span>
        <span class="grow">{{ r.said }}</span>
        <button
          v-if="r.entry && visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`Wrong entry: ${r.battery}, ${r.volts} V`"
          @click="visit.takeBack(r.entry, 'The reading is taken back.')"
        >
          Wrong entry
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: flex-end;
  margin: 6px 0 8px;
}
.one .field {
  width: 190px;
}
.asking {
  flex: 1 1 100%;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  min-height: 40px;
}
.grow {
  flex: 1;
}
</style>
