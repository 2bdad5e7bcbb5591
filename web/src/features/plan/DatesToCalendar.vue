<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { v7 as uuidv7 } from 'uuid';
import { ref, shallowRef, watch } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** Days of the plan. */
  dates: Schemas['PlanDate'][];
}>();
const failure = shallowRef<Failure | null>(null);
const put = ref(0);
const busy = ref(false);
/** What was put already is not put twice, also where one of them failed. */
const ids = new Map<string, string>();
const done = new Set<string>();
watch(
  () => props.dates.map((d) => d.day + d.what).join(),
  () => (put.value = 0),
);
async function all(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    for (const date of props.dates) {
      const key = date.day + date.what;
      if (done.has(key)) continue;
      const id = ids.get(key) ?? uuidv7();
      ids.set(key, id);
      const text = date.what.charAt(0).toUpperCase() + date.what.slice(1);
      await need(
        api.PUT('/api/reminders/{id}', {
          params: { path: { id } },
          body: { bank: props.bank, day: date.day, text: text.slice(0, 200), job: date.job },
        }),
      );
      done.add(key);
    }
    put.value = props.dates.length;
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="adopt">
    <FailureNote :failure="failure" />
    <p v-if="put" role="status">{{ put }} days stand in what is due, and in the calendar.</p>
    <button v-else type="button" class="btn" :disabled="busy" @click="all">
      Put these days into the calendar
    </button>
  </div>
</template>

<style scoped>
.adopt {
  margin: 8px 0 4px;
}
</style>
