<script setup lang="ts">
import { api, need, sendFile, type Schemas } from '@/api/client';
import FileButton from '@/components/form/FileButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { ref, shallowRef } from 'vue';
import ReadRecord from './ReadRecord.vue';
import RecordFiles from './RecordFiles.vue';
import RecordYear from './RecordYear.vue';
import TakenRecord from './TakenRecord.vue';
import { useReadRecord } from './useReadRecord';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** Nothing is read into an archived bank. */
  closed?: boolean;
}>();
const emit = defineEmits<{ changed: [] }>();
const until = ref<string>();
const { data, failure, loading, load } = useRemote(() =>
  need(
    api.GET('/api/banks/{id}/record', {
      params: { path: { id: props.bank }, query: { until: until.value } },
    }),
  ),
);
const own = useReadRecord<Schemas['RecordTaken']>(
  () => props.bank,
  (id, query, file, stop) => sendFile('PUT', `/api/banks/${props.bank}/records/${id}?${query}`, file, stop),
);
const { file, look, source, reading, progress } = own;
const taken = shallowRef<Schemas['RecordTaken'] | null>(null);
async function changed(): Promise<void> {
  until.value = undefined;
  await load();
  emit('changed');
}
async function read(): Promise<void> {
  const answer = await own.read();
  if (!answer) return;
  taken.value = answer;
  own.close();
  await changed();
}
async function choose(chosen: File): Promise<void> {
  taken.value = null;
  await own.choose(chosen);
}
function show(day: string): void {
  until.value = day;
  void load();
}
</script>

<template>
  <div class="record">
    <div v-if="!closed" class="take">
      <FileButton accept=".csv,.txt,.tsv,.log" @chosen="choose">Read a file of a monitor</FileButton>
      <p class="dim small">
        A table with times and any of volts, amperes, ampere-hours, temperature or state; what chargers tell
        over the network is in the record by itself.
      </p>
    </div>
    <FailureNote v-if="own.failure.value && !look" :failure="own.failure.value" />
    <ReadRecord
      v-if="file && look && source"
      v-model:source="source"
      :look="look"
      :file="file"
      :failure="own.failure.value"
      :reading="reading"
      :progress="progress"
      @look="own.lookAt()"
      @read="read"
      @halt="own.halt()"
      @close="own.close()"
    />
    <TakenRecord v-if="taken" :taken="taken" />
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load()" />
    <template v-if="data">
      <RecordYear :page="data" @until="show" />
      <RecordFiles :files="data.files" :closed="closed" @changed="changed" />
    </template>
  </div>
</template>

<style scoped>
.take {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  margin-bottom: 10px;
}
</style>
