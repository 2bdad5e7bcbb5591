<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import PickedField from '@/components/form/PickedField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useStartVisit } from '@/composables/useStartVisit';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
}>();
const day = ref('');
const { start, failure } = useStartVisit();
/** What no field of this form shows. */
const loose = computed(() => (failure.value && !failure.value.fields.day ? failure.value : null));
</script>

<template>
  <FormFrame class="past" :failure="failure" elsewhere @submit="start(props.bank, null, { day })">
    <PickedField
      v-model="day"
      label="A visit of an earlier day, from a sheet"
      :error="failure?.fields.day ?? ''"
    />
    <button type="submit" class="btn" :disabled="!day">Enter it</button>
    <FailureNote :failure="loose" />
  </FormFrame>
</template>

<style scoped>
.past {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin-top: 8px;
}
</style>
