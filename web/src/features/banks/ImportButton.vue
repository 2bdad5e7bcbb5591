<script setup lang="ts">
import { need, type Failure, type Schemas } from '@/api/client';
import { postFile } from '@/api/files';
import FailureNote from '@/components/ui/FailureNote.vue';
import FileButton from '@/components/form/FileButton.vue';
import { ref, shallowRef } from 'vue';

const emit = defineEmits<{ imported: [bank: string] }>();
const failure = shallowRef<Failure | null>(null);
const said = ref('');

async function take(file: File): Promise<void> {
  failure.value = null;
  said.value = '';
  try {
    const done = await need(postFile<Schemas['Imported']>('POST', '/api/import', file, 'application/json'));
    said.value = done.new ? `${file.name} is in.` : `Everything in ${file.name} was here already.`;
    emit('imported', done.bank);
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <div>
    <FileButton accept=".json,application/json" @chosen="take">Import a file</FileButton>
    <p v-if="said" class="small" role="status">{{ said }}</p>
    <FailureNote :failure="failure" />
  </div>
</template>
