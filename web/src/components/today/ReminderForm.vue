<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { v7 as uuidv7 } from 'uuid';
import { ref, shallowRef } from 'vue';
import { useRemote } from '@/composables/useRemote';

const props = defineProps<{
  /** Banks with something due come first in the list. */
  trips: Schemas['VanTrip'][];
  /** The day it is. */
  today: string;
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const banks = useRemote(() => need(api.GET('/api/banks')));
const bank = ref(props.trips[0]?.bank ?? '');
const day = ref(props.today);
const text = ref('');
const failure = shallowRef<Failure | null>(null);
const id = uuidv7();

async function save(): Promise<void> {
  failure.value = null;
  try {
    await need(
      api.PUT('/api/reminders/{id}', {
        params: { path: { id } },
        body: { bank: bank.value, day: day.value, text: text.value },
      }),
    );
    emit('saved');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <form class="remind" @submit.prevent="save">
    <div class="field">
      <label for="rem-bank">Bank</label>
      <select id="rem-bank" v-model="bank" class="text">
        <option v-for="b in (banks.data.value ?? []).filter((x) => !x.archived)" :key="b.id" :value="b.id">
          {{ [b.site, b.name].filter(Boolean).join(', ') }}
        </option>
      </select>
    </div>
    <div class="field">
      <label for="rem-day">Day</label>
      <input id="rem-day" v-model="day" class="text mono" type="date" />
      <span class="fault">{{ failure?.fields.day }}</span>
    </div>
    <div class="field grow">
      <label for="rem-text">What</label>
      <input id="rem-text" v-model="text" class="text" maxlength="200" />
      <span class="fault">{{ failure?.fields.text }}</span>
    </div>
    <button type="submit" class="btn go">Keep the reminder</button>
    <button type="button" class="btn" @click="emit('close')">Cancel</button>
    <FailureNote :failure="failure && !Object.keys(failure.fields).length ? failure : null" />
  </form>
</template>

<style scoped>
.remind {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  border-bottom: 1px solid var(--line);
  padding: 10px 0 14px;
}
</style>
