<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import PickedField from '@/components/form/PickedField.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
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
  <FormFrame class="remind" :failure="failure" @submit="save">
    <ChoiceField
      v-model="bank"
      label="Bank"
      :options="
        (banks.data.value ?? [])
          .filter((x) => !x.archived)
          .map((b) => ({ value: b.id, label: [b.site, b.name].filter(Boolean).join(', ') }))
      "
    />
    <PickedField v-model="day" label="Day" :error="failure?.fields.day" />
    <TextField v-model="text" class="grow" :maxlength="200" label="What" :error="failure?.fields.text" />
    <button type="submit" class="btn go">Keep the reminder</button>
    <button type="button" class="btn" @click="emit('close')">Cancel</button>
  </FormFrame>
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
.grow {
  flex: 1 1 220px;
}
</style>
