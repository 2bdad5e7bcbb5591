<script setup lang="ts">
import BankDraftForm from './BankDraftForm.vue';
import BankModel from './BankModel.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useBankDraft } from './useBankDraft';

const props = defineProps<{ id: string }>();
const bank = useBankDraft(props.id);
const { draft, loading, missing, takeOver } = bank;
</script>

<template>
  <LoadingLines v-if="loading" />
  <FailureNote v-else-if="missing" :failure="missing" again @again="takeOver(id)" />
  <template v-else>
    <WhereLine :place="draft.site" :parts="[draft.name, 'put the description right']">
      <RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink>
    </WhereLine>
    <h1>Put right what this bank is called and how it stands.</h1>
    <BankDraftForm :bank="bank" existing press="Keep it so" />
    <BankModel :bank="id" />
  </template>
</template>
