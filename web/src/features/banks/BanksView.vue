<script setup lang="ts">
import BankLine from './BankLine.vue';
import BankTools from './BankTools.vue';
import FirstRun from './FirstRun.vue';
import ImportButton from './ImportButton.vue';
import SeveralBanks from './SeveralBanks.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useArchiving } from './useArchiving';
import { useBankList } from './useBankList';

const list = useBankList();
const { data, loading, failure, load, here, shown, headline } = list;
const several = useArchiving(load);
const { picking, picked, refused } = several;
</script>

<template>
  <LoadingLines v-if="loading && !data" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <FirstRun v-else-if="!data?.length" @loaded="load" />
  <template v-else>
    <WhereLine place="Banks" :parts="[here.length === 1 ? '1 bank' : `${here.length} banks`]">
      <ImportButton @imported="load" />
      <RouterLink class="btn go" to="/banks/new">Describe a bank</RouterLink>
    </WhereLine>
    <h1>{{ headline }}</h1>
    <BankTools :list="list" :several="several" />
    <SeveralBanks v-if="picking" :several="several" :shown="shown.map((hit) => hit.bank.id)" />
    <FailureNote :failure="refused" />
    <ul class="banks" aria-label="Banks on the books">
      <BankLine
        v-for="hit in shown"
        :key="hit.bank.id"
        :bank="hit.bank"
        :cell="hit.cell"
        :picking="picking"
        :picked="picked.has(hit.bank.id)"
        @update:picked="several.pick(hit.bank.id, $event)"
        @changed="load"
      />
    </ul>
    <p v-if="!shown.length" class="dim">
      Nothing answers to that. Clear the search or the filter to see every bank.
    </p>
  </template>
</template>

<style scoped>
.banks {
  border-top: 1px solid var(--line-strong);
}
</style>
