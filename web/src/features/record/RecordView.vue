<script setup lang="ts">
import { api, need, sendFile, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { ref, shallowRef } from 'vue';
import RecordFiles from './RecordFiles.vue';
import RecordYear from './RecordYear.vue';
import TakeRecord from './TakeRecord.vue';
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
    <TakeRecord :own="own" :closed="closed" @chosen="choose" @read="read">
      A table with times and any of volts, amperes, ampere-hours, temperature or state; what chargers tell
      over the network is in the record by itself.
    </TakeRecord>
    <TakenRecord v-if="taken" :taken="taken" />
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load()" />
    <template v-if="data">
      <RecordYear :page="data" @until="show" />
      <RecordFiles :files="data.files" :closed="closed" @changed="changed" />
    </template>
  </div>
</template>
