<script setup lang="ts">
import { api, need } from '@/api/client';
import HouseRulesTable from './HouseRulesTable.vue';
import InstrumentTable from './InstrumentTable.vue';
import ModelTable from './ModelTable.vue';
import WeightTable from './WeightTable.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useRemote } from '@/composables/useRemote';

const models = useRemote(() => need(api.GET('/api/models')));
const rules = useRemote(() => need(api.GET('/api/house-rules')));
const choices = useRemote(() => need(api.GET('/api/house-rules/choices')));
const weights = useRemote(() => need(api.GET('/api/house-rules/weights')));
const instruments = useRemote(() => need(api.GET('/api/instruments')));
function again(): void {
  void rules.load();
  void choices.load();
  void weights.load();
}
</script>

<template>
  <WhereLine place="Library" :parts="['battery models, house rules, instruments']" />
  <h1>What banks are judged by.</h1>
  <section>
    <h2>Battery models</h2>
    <LoadingLines v-if="models.loading.value && !models.data.value" />
    <FailureNote
      v-else-if="models.failure.value"
      :failure="models.failure.value"
      again
      @again="models.load()"
    />
    <ModelTable v-else :models="models.data.value ?? []" @changed="models.load()" />
  </section>
  <section>
    <h2>House rules</h2>
    <p class="small">
      Three sets ship, read-only; copy one to make your own. Each bank is judged by one of them, with single
      choices of its own where it needs them; findings say where another set would judge differently.
    </p>
    <LoadingLines v-if="rules.loading.value && !rules.data.value" />
    <FailureNote v-else-if="rules.failure.value" :failure="rules.failure.value" again @again="again" />
    <HouseRulesTable
      v-else-if="weights.data.value"
      :sets="rules.data.value ?? []"
      :choices="choices.data.value ?? []"
      :table="weights.data.value"
      @changed="again"
    />
  </section>
  <section>
    <h2>Weights of the diagnosis</h2>
    <p class="small">
      What each sign says of each fault (DG-1): from tables tried on made banks and common practice, no source
      beyond. A set of your own may take single ones otherwise.
    </p>
    <LoadingLines v-if="weights.loading.value && !weights.data.value" />
    <FailureNote
      v-else-if="weights.failure.value"
      :failure="weights.failure.value"
      again
      @again="weights.load()"
    />
    <WeightTable v-else-if="weights.data.value" :table="weights.data.value" />
  </section>
  <section>
    <h2>Instruments</h2>
    <p class="small">
      What one can tell is set by its marks and by how well it repeats; verdicts are widened by both. Each
      round says what read it.
    </p>
    <LoadingLines v-if="instruments.loading.value && !instruments.data.value" />
    <FailureNote
      v-else-if="instruments.failure.value"
      :failure="instruments.failure.value"
      again
      @again="instruments.load()"
    />
    <InstrumentTable v-else :instruments="instruments.data.value ?? []" />
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  margin-top: 18px;
  padding-top: 12px;
}
</style>
