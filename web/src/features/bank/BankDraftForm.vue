<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import type { useBankDraft } from './useBankDraft';
import BankFields from './BankFields.vue';
import DraftPicture from './DraftPicture.vue';

const props = defineProps<{
  /** The bank as it is typed. */
  bank: ReturnType<typeof useBankDraft>;
  /** True for a bank that is put right: what it is made of stays. */
  existing: boolean;
  /** What to press. */
  press: string;
}>();
const { draft, models, sites, rules, plan, misfit, failure, busy } = props.bank;
</script>

<template>
  <FormFrame class="cols" :failure="failure" long @submit="bank.save()">
    <div>
      <BankFields
        v-model="draft"
        :models="models"
        :sites="sites"
        :rules="rules"
        :misfit="misfit"
        :failure="failure"
        :existing="existing"
        :climate="bank.climate"
      />
      <button type="submit" class="btn go" :disabled="busy">{{ busy ? 'Saving' : press }}</button>
    </div>
    <DraftPicture :plan="plan" />
  </FormFrame>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: 420px minmax(0, 1fr);
  gap: 28px;
  margin-top: 12px;
}
@media (max-width: 980px) {
  .cols {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
