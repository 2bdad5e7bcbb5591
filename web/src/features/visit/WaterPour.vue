<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, ref } from 'vue';
import SpillForm from './SpillForm.vue';
import { waterUnits } from './waterUnits';
import type { Visit } from './useVisit';

const props = defineProps<{
  /** Levels and water. */
  water: Schemas['WaterView'];
  /** The visit. */
  visit: Visit;
  /** The cell that is looked at. */
  current: string;
}>();
const emit = defineEmits<{ on: [cell: string] }>();
const store = useMe();
const units = computed(() => waterUnits(store.me.volume));
const { fault } = props.visit;
const scope = ref<'cell' | 'battery' | 'bank'>('bank');
const amount = ref('');
const unit = ref<Schemas['WaterUnit']>(units.value[0]!.value);
const known = ref<Schemas['AmountKnown']>('measured');
const how = ref<Schemas['FillWay'] | ''>('');
const stopped = ref('');
const toMark = ref(true);
const question = ref<string | null>(null);
const unseen = computed(() => props.water.ways.find((w) => w.way === how.value)?.unseen ?? false);
const battery = computed(() => props.current.split('-')[0]!);
const place = computed(() => ({ bank: '', battery: battery.value, cell: props.current })[scope.value]);
const where = computed(() => (scope.value === 'bank' ? 'the whole bank' : place.value));
const KNOWN: { value: Schemas['AmountKnown']; label: string }[] = [
  { value: 'measured', label: 'measured' },
  { value: 'estimated', label: 'estimated' },
  { value: 'unknown', label: 'not measured' },
];
async function pour(stands = false): Promise<void> {
  const at = props.current;
  const stored = await props.visit.say(
    {
      kind: 'water',
      typed: known.value === 'unknown' ? '' : amount.value,
      unit: unit.value,
      to_mark: toMark.value,
      stands,
      poured: {
        amount: known.value,
        how: how.value || null,
        flow_stopped: unseen.value && stopped.value ? stopped.value === 'yes' : null,
      },
    },
    place.value,
  );
  if (stored === undefined) return;
  question.value = stored;
  if (stored) return;
  amount.value = '';
  if (scope.value !== 'bank') emit('on', at);
}
</script>

<template>
  <FormFrame v-if="visit.open.value" class="pour" :failure="visit.failure.value" elsewhere @submit="pour()">
    <h2>Water added</h2>
    <ChoiceField
      v-model="scope"
      label="Poured into"
      :options="[
        { value: 'bank', label: 'the whole bank' },
        { value: 'battery', label: `battery ${battery}` },
        { value: 'cell', label: `cell ${current}` },
      ]"
    />
    <ChoiceField v-model="known" class="short" label="Amount is" :options="KNOWN" />
    <div v-if="known !== 'unknown'" class="pair amount">
      <TextField v-model="amount" label="Amount" figure :error="fault('typed', 'water')" />
      <ChoiceField v-model="unit" label="Unit of the amount" :options="units" />
    </div>
    <ChoiceField
      v-model="how"
      label="Poured with"
      :options="[
        { value: '', label: 'not said' },
        ...water.ways.map((w) => ({ value: w.way, label: w.said })),
      ]"
    />
    <ChoiceField
      v-if="unseen"
      v-model="stopped"
      class="short"
      label="Flow indicator"
      :options="[
        { value: '', label: 'none there' },
        { value: 'yes', label: 'stopped' },
        { value: 'no', label: 'did not stop' },
      ]"
    />
    <CheckField v-model="toMark" label="to the mark" />
    <button type="submit" class="btn go" :disabled="visit.saving.value">Note the water</button>
    <p v-if="fault('to_mark', 'water')" class="wide wrong" role="alert">{{ fault('to_mark', 'water') }}</p>
    <div v-if="question" class="asking wide" role="alert">
      <p>{{ question }}</p>
      <button type="button" class="btn" @click="question = null">Change it</button>
      <button type="button" class="btn" @click="pour(true)">Keep it for {{ where }}</button>
    </div>
  </FormFrame>
  <SpillForm v-if="visit.open.value" :visit="visit" :place="place" :where="where" :units="units" />
  <ul v-if="water.entries.length" class="entries" aria-label="Water and levels noted">
    <li v-for="e in water.entries" :key="e.entry">
      {{ e.said }} <span class="small dim">{{ e.by }}</span>
      <button
        v-if="visit.open.value"
        type="button"
        class="btn sm quiet"
        :aria-label="`Take back ${e.said}`"
        @click="visit.takeBack(e.entry, `${e.said} is taken back.`)"
      >
        Take back
      </button>
    </li>
  </ul>
</template>

<style scoped>
.pour {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: flex-end;
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
h2 {
  flex: 1 1 100%;
}
.pour > :deep(.choice) {
  width: 168px;
}
.pair {
  display: grid;
  grid-template-columns: 110px 110px;
  gap: 8px;
}
.wide {
  flex: 1 1 100%;
}
.wrong {
  color: var(--act-text);
}
.entries {
  margin: 10px 0;
}
.entries li {
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
@media (max-width: 720px) {
  .pour > :deep(.choice),
  .pair {
    flex: 1 1 150px;
    width: auto;
  }
  .pair {
    flex: 1 1 100%;
    grid-template-columns: 1fr 1fr;
  }
}
</style>
