<script setup lang="ts">
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';

defineProps<{
  /** What was wrong with a field. */
  fault: (field: string) => string;
}>();
const cables = defineModel<Schemas['TypedConnection'][]>({ required: true });

/** A free line stands at the end. */
function grow(): void {
  const last = cables.value[cables.value.length - 1];
  if (!last || last.from || last.to || last.mark) cables.value.push({ from: '', to: '', mark: '' });
}
</script>

<template>
  <div v-for="(own, i) in cables" :key="i" class="line">
    <TextField
      v-model="own.from"
      :label="`Cable ${i + 1} from`"
      :hint="i ? '' : 'A1 +'"
      :error="fault(`hook_up[${i}].from`)"
      @update:model-value="grow"
    />
    <TextField
      v-model="own.to"
      label="to"
      :hint="i ? '' : 'A2 −'"
      :error="fault(`hook_up[${i}].to`)"
      @update:model-value="grow"
    />
    <TextField
      v-model="own.mark"
      label="Mark"
      :hint="i ? '' : 'red tape, two bands'"
      :error="fault(`hook_up[${i}].mark`)"
      @update:model-value="grow"
    />
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 150px 150px minmax(0, 1fr);
  gap: 10px 14px;
  margin-bottom: 8px;
}
@media (max-width: 620px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
