<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { v7 as uuidv7 } from 'uuid';
import { ref, shallowRef } from 'vue';

const props = defineProps<{
  /** Which planner. */
  planner: Schemas['Planner'];
  /** What is set. */
  asked: Schemas['PlannerAsked'];
  /** The visit under way at the bank; none: it cannot be attached. */
  visit?: string;
  /** The kept plan that is open, which this takes the place of; none: it is a new one. */
  replaces?: { id: string; name: string };
}>();
const emit = defineEmits<{ kept: [name: string] }>();
const name = ref(props.replaces?.name ?? '');
const attach = ref(false);
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
let id = uuidv7();
async function keep(): Promise<void> {
  busy.value = true;
  try {
    await need(
      api.PUT('/api/plans/{id}', {
        params: { path: { id } },
        body: {
          planner: props.planner,
          name: name.value,
          asked: props.asked,
          visit: attach.value ? props.visit : null,
          replaces: props.replaces?.id ?? null,
        },
      }),
    );
    failure.value = null;
    emit('kept', name.value);
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    // What was refused under an id may be sent otherwise under another.
    id = uuidv7();
    busy.value = false;
  }
}
</script>

<template>
  <FormFrame class="keep" :failure="failure" asked @submit="keep">
    <TextField
      v-model="name"
      label="Name of the plan"
      hint="as “winter, carried indoors”"
      :maxlength="80"
      :error="failure?.fields.name"
    />
    <CheckField v-if="visit" v-model="attach" label="Attach it to the visit under way: its report tells it" />
    <p v-if="replaces" class="small dim">It takes the place of “{{ replaces.name }}”.</p>
    <button type="submit" class="btn go" :disabled="busy">Keep this plan</button>
  </FormFrame>
</template>

<style scoped>
.keep {
  display: grid;
  gap: 14px;
  max-width: 420px;
}
.keep button {
  justify-self: start;
}
</style>
