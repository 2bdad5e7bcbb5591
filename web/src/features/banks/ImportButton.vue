<script setup lang="ts">
import { need, type Schemas } from '@/api/client';
import { postFile } from '@/api/files';
import FileButton from '@/components/form/FileButton.vue';
import CountProgress from '@/components/ui/CountProgress.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useFileQueue } from '@/composables/useFileQueue';
import { ref } from 'vue';

const emit = defineEmits<{ imported: [bank: string] }>();
const said = ref('');
const last = ref('');
const { take, failure, gone, total, busy } = useFileQueue(async (file) => {
  said.value = '';
  const done = await need(postFile<Schemas['Imported']>('POST', '/api/import', file, 'application/json'));
  said.value = done.new ? `${file.name} is in.` : `Everything in ${file.name} was here already.`;
  last.value = done.bank;
});
/** Told once, when all of them are in: the page that is shown then may be another one. */
async function chosen(file: File): Promise<void> {
  await take(file);
  if (busy.value || !last.value) return;
  emit('imported', last.value);
  last.value = '';
}
</script>

<template>
  <div>
    <FileButton accept=".json,application/json" multiple :disabled="busy" @chosen="chosen"
      >Import a file</FileButton
    >
    <CountProgress v-if="busy" what="Reading" :done="gone" :of="total" />
    <p v-if="said" class="small" role="status">{{ said }}</p>
    <FailureNote :failure="failure" />
  </div>
</template>
