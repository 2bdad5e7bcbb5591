<script setup lang="ts">
import { need, type Failure, type Schemas } from '@/api/client';
import { postFile } from '@/api/files';
import FailureNote from '@/components/ui/FailureNote.vue';
import { ref, shallowRef, useTemplateRef } from 'vue';

const emit = defineEmits<{ imported: [bank: string] }>();
const input = useTemplateRef<HTMLInputElement>('input');
const failure = shallowRef<Failure | null>(null);
const said = ref('');

async function take(): Promise<void> {
  const file = input.value?.files?.[0];
  if (!file) return;
  failure.value = null;
  said.value = '';
  try {
    const done = await need(postFile<Schemas['Imported']>('POST', '/api/import', file, 'application/json'));
    said.value = done.new ? `${file.name} is in.` : `Everything in ${file.name} was here already.`;
    emit('imported', done.bank);
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    if (input.value) input.value.value = '';
  }
}
</script>

<template>
  <div>
    <label class="btn"
      ><input
        ref="input"
        class="visually-hidden"
        type="file"
        accept=".json,application/json"
        @change="take"
      />Import a file</label
    >
    <p v-if="said" class="small" role="status">{{ said }}</p>
    <FailureNote :failure="failure" />
  </div>
</template>

<style scoped>
label:focus-within {
  outline: 2px solid var(--action);
  outline-offset: 2px;
}
</style>
