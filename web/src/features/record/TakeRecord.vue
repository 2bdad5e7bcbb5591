<script setup lang="ts" generic="T">
import FileButton from '@/components/form/FileButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import ReadRecord from './ReadRecord.vue';
import type { RecordOnItsWay } from './useReadRecord';

const props = defineProps<{
  /** The file on its way in. */
  own: RecordOnItsWay<T>;
  /** No file is taken; one under way is read to its end. */
  closed?: boolean;
}>();
defineEmits<{ chosen: [file: File]; read: [] }>();
const { file, look, source, failure, reading, progress } = props.own;
</script>

<template>
  <div v-if="!closed" class="take">
    <FileButton accept=".csv,.txt,.tsv,.log" @chosen="$emit('chosen', $event)"
      >Read a file of a monitor</FileButton
    >
    <p class="dim small"><slot /></p>
  </div>
  <FailureNote v-if="failure && !look" :failure="failure" />
  <ReadRecord
    v-if="file && look && source"
    v-model:source="source"
    :look="look"
    :file="file"
    :failure="failure"
    :reading="reading"
    :progress="progress"
    @look="own.lookAt()"
    @read="$emit('read')"
    @halt="own.halt()"
    @close="own.close()"
  />
</template>

<style scoped>
.take {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  margin: 4px 0 10px;
}
</style>
