<script setup lang="ts">
import BankFields from '@/components/bank/BankFields.vue';
import DraftPicture from '@/components/bank/DraftPicture.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useBankDraft } from '@/composables/useBankDraft';

const props = defineProps<{ id: string }>();
const { draft, models, sites, rules, plan, misfit, failure, busy, loading, missing, takeOver, save } =
  useBankDraft(props.id);
</script>

<template>
  <LoadingLines v-if="loading" />
  <FailureNote v-else-if="missing" :failure="missing" again @again="takeOver(id)" />
  <template v-else>
    <WhereLine :place="draft.site" :parts="[draft.name, 'put the description right']">
      <RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink>
    </WhereLine>
    <h1>Put right what this bank is called and how it stands.</h1>
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
          existing
        />
        <button type="submit" class="btn go" :disabled="busy || !plan">
          {{ busy ? 'Saving' : 'Keep it so' }}
        </button>
      </div>
      <DraftPicture :plan="plan" />
    </form>
  </template>
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
