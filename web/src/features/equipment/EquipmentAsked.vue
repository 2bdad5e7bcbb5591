<script setup lang="ts">
import { api, need } from '@/api/client';
import EquipmentForm from './EquipmentForm.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';

const props = defineProps<{
  /** The bank. */
  bank: string;
}>();
defineEmits<{ saved: []; close: [] }>();
const { data, failure, load } = useRemote(() =>
  need(api.GET('/api/banks/{id}/equipment', { params: { path: { id: props.bank } } })),
);
</script>

<template>
  <FailureNote v-if="failure" :failure="failure" again @again="load" />
  <EquipmentForm v-else-if="data" :bank="bank" :page="data" @saved="$emit('saved')" @close="$emit('close')" />
  <LoadingLines v-else />
</template>
