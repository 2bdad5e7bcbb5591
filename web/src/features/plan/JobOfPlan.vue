<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FormFrame from '@/components/form/FormFrame.vue';
import PickedField from '@/components/form/PickedField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useStartVisit } from '@/composables/useStartVisit';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, shallowRef, watch } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** The list that a visit works through. */
  list: Schemas['PlanList'];
  /** The job. */
  job: Schemas['Job'];
  /** A visit under way there. */
  visit?: string;
}>();
const { start, failure: notBegun } = useStartVisit();
const day = ref('');
const put = ref('');
const failure = shallowRef<Failure | null>(null);
// One id a day and list: pressing again after a lost answer makes no second reminder.
let id = uuidv7();
watch([day, () => props.list.remind], () => {
  put.value = '';
  id = uuidv7();
});
async function remind(): Promise<void> {
  try {
    await need(
      api.PUT('/api/reminders/{id}', {
        params: { path: { id } },
        body: { bank: props.bank, day: day.value, text: props.list.remind, job: props.job },
      }),
    );
    failure.value = null;
    put.value = day.value;
  } catch (error) {
    failure.value = error as Failure;
  }
}
const loose = computed(() => (failure.value && !failure.value.fields.day ? failure.value : null));
</script>

<template>
  <FormFrame class="job" :failure="failure" elsewhere @submit="remind">
    <button type="button" class="btn" @click="start(bank, visit, { job })">
      {{ visit ? 'Work it through on the visit under way' : 'Begin it as a visit' }}
    </button>
    <PickedField v-model="day" label="Or on a day" :error="failure?.fields.day ?? ''" />
    <button type="submit" class="btn" :disabled="!day">Into the calendar</button>
    <p v-if="put" role="status" class="small">It stands in what is due.</p>
    <FailureNote :failure="notBegun ?? loose" />
  </FormFrame>
</template>

<style scoped>
.job {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin: 10px 0 4px;
}
.job .field {
  width: 150px;
}
</style>
