<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, seen, Failure, type Schemas } from '@/api/client';
import { numbersOf } from '@/logic/typedNumbers';
import { v7 as uuidv7 } from 'uuid';
import { computed, reactive, ref, shallowRef } from 'vue';
import WeightFields from './WeightFields.vue';
import { asTyped, asWeights } from './weights';

const props = defineProps<{
  /** The set it begins with. */
  from: Schemas['HouseRulesView'];
  /** True for a new set, false for the shop's own that is changed. */
  copy: boolean;
  /** Every choice. */
  choices: Schemas['ChoiceView'][];
  /** The weights of the diagnosis. */
  table: Schemas['WeightsView'];
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const key = props.copy ? uuidv7() : props.from.key;
const name = ref(props.copy ? '' : props.from.name);
const suits = ref(props.from.suits);
const makers = ref(props.from.maker_limits_win);
const typed = reactive<Record<string, string>>(
  Object.fromEntries(props.choices.map((c) => [c.key, String(c.values[props.from.key] ?? '')])),
);
const weights = ref(asTyped(props.from.weights ?? {}));
const oddWeights = ref<Record<number, string>>({});
const failure = shallowRef<Failure | null>(null);
const own = ref<Record<string, string>>({});
/** What is no number is told without asking the server. */
const problem = computed(() =>
  Object.keys(own.value).length ? new Failure('Not every figure is a number.', 0, own.value) : failure.value,
);
const fault = (field: string): string => own.value[field] ?? failure.value?.fields[field] ?? '';

async function save(): Promise<void> {
  failure.value = null;
  const { numbers, faults } = numbersOf(typed);
  own.value = faults;
  const weighed = asWeights(weights.value);
  oddWeights.value = weighed.faults;
  if (Object.keys(faults).length + Object.keys(weighed.faults).length) return;
  try {
    await need(
      api.PUT('/api/house-rules/{key}', {
        params: { path: { key }, header: props.copy ? {} : seen(props.from.version) },
        body: {
          from: props.from.key,
          name: name.value,
          suits: suits.value,
          maker_limits_win: makers.value,
          choices: numbers,
          weights: weighed.weights,
        },
      }),
    );
    emit('saved');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <FormFrame class="form" :failure="problem" long asked @submit="save">
    <h3>{{ copy ? `A set of your own, from ${from.name}` : `Change ${from.name}` }}</h3>
    <p v-if="!copy" class="small">
      Every bank that holds to it is judged by the new numbers from now on; closed visits keep their reports.
    </p>
    <div class="grid">
      <TextField v-model="name" :maxlength="40" label="Name of the set" :error="fault('name')" />
      <TextField v-model="suits" label="What it suits" :error="fault('suits')" />
      <CheckField v-model="makers" label="the maker’s own limits win" />
      <TextField
        v-for="c in choices"
        :key="c.key"
        v-model="typed[c.key]"
        :label="`${c.said}, ${c.unit}`"
        figure
        :error="fault(c.key)"
        :hint="`${c.low} to ${c.high}${c.when_empty ? '; empty: ' : ''}${c.when_empty}`"
      />
    </div>
    <WeightFields v-model="weights" :table="table" :faults="oddWeights" :error="fault('weights')" />
    <p class="press">
      <button type="submit" class="btn go">Keep this set</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.form {
  border-top: 1px solid var(--line-strong);
  padding-top: 14px;
  margin-top: 16px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 10px 14px;
  margin: 10px 0;
  align-items: start;
}
.check {
  align-self: center;
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 36px;
}
.press {
  display: flex;
  gap: 8px;
}
</style>
