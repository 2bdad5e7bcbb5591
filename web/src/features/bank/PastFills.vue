<script setup lang="ts">
import FailureNote from '@/components/ui/FailureNote.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import PickedField from '@/components/form/PickedField.vue';
import TextField from '@/components/form/TextField.vue';
import { usePastFills } from './usePastFills';
import { useMe } from '@/stores/me';

const props = defineProps<{
  /** The bank. */
  bank: string;
}>();
const emit = defineEmits<{ kept: [] }>();
const gallons = useMe().me.volume === 'us_gallon';
const unit = gallons ? 'US gal' : 'L';
const { rows, kept, busy, failure, grow, keep } = usePastFills(props.bank, () =>
  gallons ? 'us_gallon' : 'litre',
);
async function save(): Promise<void> {
  await keep();
  if (kept.value) emit('kept');
}
</script>

<template>
  <details>
    <summary>Fills of earlier years, from a log</summary>
    <p class="small">One line a fill to the mark: the day, and what went into the whole bank.</p>
    <FormFrame :failure="failure" elsewhere @submit="save">
      <div v-for="(row, i) in rows" :key="row.visit" class="line">
        <PickedField
          v-model="row.day"
          :label="`Fill ${i + 1}, day`"
          :error="row.dayFault"
          @update:model-value="grow"
        />
        <TextField
          v-model="row.typed"
          figure
          :label="`Water, ${unit}`"
          :error="row.typedFault"
          @update:model-value="grow"
        />
      </div>
      <button type="submit" class="btn" :disabled="busy">Keep these fills</button>
      <p class="small" role="status">{{ kept ? `${kept} kept.` : '' }}</p>
      <FailureNote :failure="failure" />
    </FormFrame>
  </details>
</template>

<style scoped>
details {
  margin-top: 10px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
.line {
  display: grid;
  grid-template-columns: 200px 130px;
  gap: 10px 14px;
  margin: 6px 0;
}
</style>
