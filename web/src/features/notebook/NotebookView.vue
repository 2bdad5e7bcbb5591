<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextArea from '@/components/form/TextArea.vue';
import { api, need } from '@/api/client';
import NotebookCheck from './NotebookCheck.vue';
import NotebookGrid from './NotebookGrid.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import FileButton from '@/components/form/FileButton.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useNotebook } from './useNotebook';
import { useRemote } from '@/composables/useRemote';
import { useMe } from '@/stores/me';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const router = useRouter();
const store = useMe();
const {
  data: page,
  loading,
  failure: missing,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}', { params: { path: { id: props.id } } })));
const cells = computed(() => (page.value?.cells ?? []).map((c) => c.cell));
const notebook = useNotebook(props.id, () => cells.value);
const { check, failure, busy, taken, grid, instrument } = notebook;
const unit = computed(() => ({
  temperature: store.me.temperature === 'F' ? '°F' : '°C',
  water: store.me.volume === 'us_gallon' ? 'US gal' : 'L',
}));
const way = ref<'grid' | 'file'>('grid');
const pasted = ref('');
async function take(): Promise<void> {
  if (await notebook.take()) await router.push(`/banks/${props.id}`);
}
</script>

<template>
  <LoadingLines v-if="loading" />
  <FailureNote v-else-if="missing" :failure="missing" again @again="load" />
  <template v-else-if="page">
    <WhereLine :place="page.site.name" :parts="[page.bank.name, page.description, 'notebook years']"
      ><RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink></WhereLine
    >
    <h1>Bring the years of the notebook: a column for each day, a line for each cell.</h1>
    <div class="bar">
      <a-segmented
        v-model:value="way"
        aria-label="How it comes"
        :options="[
          { value: 'grid', label: 'Type or paste' },
          { value: 'file', label: 'A CSV file' },
        ]"
      />
      <ChoiceField
        v-model="instrument"
        class="pick"
        label="Read with"
        :options="[
          { value: 'hydrometer', label: 'hydrometer' },
          { value: 'refractometer', label: 'refractometer' },
          { value: 'digital', label: 'digital meter' },
        ]"
      />
    </div>
    <template v-if="way === 'grid'">
      <p class="small">
        Dates as 2025-03-14, with an hour where two rounds share a day; three digits will do; leave what was
        not read empty. Volts are of the bank at rest, water of a fill of all cells to the mark: a day with
        either becomes a visit entered later. Paste a block from a spreadsheet into any field. Enter and the
        arrows go from field to field.
      </p>
      <NotebookGrid v-model="grid" :cells="cells" :unit="unit" />
      <p>
        <button type="button" class="btn go" :disabled="busy" @click="notebook.look(notebook.text())">
          Check
        </button>
      </p>
    </template>
    <div v-else class="file">
      <p>
        First line <code>cell,2025-03-14,2025-06-20</code>; then <code>temperature,18 C,64 F</code>,
        <code>volts,52.1,51.8</code> of the bank at rest and <code>water,4.2 L,1 gal</code> of a whole fill,
        as far as known; then a line for each cell: <code>A1-1,265,263</code>. Comma, semicolon or tab; UTF-8
        or UTF-16.
      </p>
      <FileButton accept=".csv,.txt,.tsv,text/csv" @chosen="notebook.look">Choose a CSV file</FileButton>
      <TextArea v-model="pasted" class="pasted" :rows="8" label="Or paste the table here" />
      <button type="button" class="btn go" :disabled="busy || !pasted.trim()" @click="notebook.look(pasted)">
        Check
      </button>
    </div>
    <FailureNote :failure="failure" />
    <NotebookCheck v-if="check" :check="check" :busy="busy" :taken="taken" @take="take" />
  </template>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: center;
  margin: 12px 0 8px;
}
.pick {
  width: 180px;
}
.file {
  display: grid;
  gap: 10px;
  justify-items: start;
}
code {
  font-family: var(--mono);
  background: var(--sunk);
  padding: 1px 5px;
  border-radius: 3px;
}
p {
  margin: 8px 0;
}
.pasted {
  width: min(640px, 100%);
}
.pasted textarea {
  font-family: var(--mono);
}
</style>
