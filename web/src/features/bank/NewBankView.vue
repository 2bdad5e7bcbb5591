<script setup lang="ts">
import BankDraftForm from './BankDraftForm.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useBankDraft } from './useBankDraft';

const bank = useBankDraft();
const { plan } = bank;
</script>

<template>
  <WhereLine place="Banks" :parts="['describe a bank']" />
  <h1>{{ plan?.description ?? 'Describe the bank as it stands.' }}</h1>
  <BankDraftForm :bank="bank" :existing="false" press="Put this bank on the page" />
</template>
