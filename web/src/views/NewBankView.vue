<script setup lang="ts">
import BankFields from '@/components/bank/BankFields.vue';
import DraftPicture from '@/components/bank/DraftPicture.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useBankDraft } from '@/composables/useBankDraft';

const { draft, models, sites, rules, plan, misfit, failure, busy, save } = useBankDraft();
</script>

<template>
  <WhereLine place="Banks" :parts="['describe a bank']" />
  <h1>{{ plan?.description ?? 'Describe the bank as it stands.' }}</h1>
  <FailureNote :failure="failure" />
  <form class="cols" @submit.prevent="save">
    <div>
      <BankFields
        v-model="draft"
        :models="models"
        :sites="sites"
        :rules="rules"
        :misfit="misfit"
        :failure="failure"
        :existing="false"
      />
      <button type="submit" class="btn go" :disabled="busy || !plan">
        {{ busy ? 'Saving' : 'Put this bank on the page' }}
      </button>
    </div>
    <DraftPicture :plan="plan" />
  </form>
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
