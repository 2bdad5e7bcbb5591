<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FormFrame from '@/components/form/FormFrame.vue';
import PickedField from '@/components/form/PickedField.vue';
import TextField from '@/components/form/TextField.vue';
import { v7 as uuidv7 } from 'uuid';
import { ref, shallowRef } from 'vue';

const props = defineProps<{
  /** What is due. */
  item: Schemas['DueView'];
}>();
const emit = defineEmits<{ done: []; close: [] }>();
const until = ref('');
const reason = ref('');
const failure = shallowRef<Failure | null>(null);
let id = uuidv7();

async function putOff(): Promise<void> {
  failure.value = null;
  try {
    await need(
      api.PUT('/api/postponements/{id}', {
        params: { path: { id } },
        body: {
          bank: props.item.bank,
          task: props.item.task,
          about: props.item.about,
          from: props.item.date,
          until: until.value,
          reason: reason.value,
        },
      }),
    );
    emit('done');
  } catch (error) {
    failure.value = error as Failure;
    if (failure.value.status === 409) id = uuidv7();
  }
}
</script>

<template>
  <FormFrame class="off" :failure="failure" @submit="putOff">
    <PickedField v-model="until" label="Put off until" :error="failure?.fields.until" />
    <TextField v-model="reason" class="grow" :maxlength="200" label="Why" :error="failure?.fields.reason" />
    <button type="submit" class="btn go">Put it off</button>
    <button type="button" class="btn" @click="emit('close')">Cancel</button>
  </FormFrame>
</template>

<style scoped>
.off {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: flex-end;
  margin-top: 8px;
}
.grow {
  flex: 1 1 220px;
}
</style>
