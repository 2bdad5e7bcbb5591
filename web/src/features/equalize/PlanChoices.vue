<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { optionsOf } from '@/components/form/field';
import type { Schemas } from '@/api/client';

defineProps<{
  /** The page. */
  page: Schemas['EqualizePage'];
  /** Unit temperatures are typed in. */
  unit: string;
  /** What was wrong with the temperature. */
  fault: string;
}>();
const kind = defineModel<Schemas['RunKind'] | null>('kind', { required: true });
const temperature = defineModel<string>('temperature', { required: true });
const pilot = defineModel<string>('pilot', { required: true });
const emit = defineEmits<{ change: [] }>();
function choose(to: Schemas['RunKind']): void {
  kind.value = to;
  emit('change');
}
</script>

<template>
  <a-radio-group :value="kind" class="kinds" aria-label="Kind of run" @change="choose($event.target.value)">
    <a-radio v-for="k in page.kinds" :key="k.kind" :value="k.kind" :class="{ on: kind === k.kind }">
      <b>{{ k.name }}<i v-if="k.wanted"> · wanted</i></b>
      <span class="small">{{ k.purpose }}</span>
    </a-radio>
  </a-radio-group>
  <div class="ask">
    <TextField
      v-model="temperature"
      :label="`Electrolyte now, °${unit}`"
      figure
      :error="fault"
      :hint="page.temperature_from"
      @settled="emit('change')"
    />
    <ChoiceField
      v-if="page.cells.length"
      v-model="pilot"
      label="Pilot cell"
      :options="optionsOf(page.cells)"
      hint="the lowest of the last round, unless you choose"
      @change="emit('change')"
    />
  </div>
</template>

<style scoped>
.kinds {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
}
.kinds :deep(.ant-radio-wrapper) {
  align-items: flex-start;
  margin: 0;
  padding: 10px 12px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  font: var(--t-body);
}
.kinds :deep(.ant-radio-wrapper.on) {
  background: var(--sunk);
  border-color: var(--action);
  box-shadow: inset 0 0 0 1px var(--action);
}

.kinds :deep(.ant-radio) {
  align-self: flex-start;
  top: 2px;
}
.kinds b,
.kinds span.small {
  display: block;
}
.kinds i {
  font-style: normal;
  color: var(--action);
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  margin-top: 12px;
}
.ask .field {
  width: 220px;
}
@media (max-width: 720px) {
  .kinds {
    grid-template-columns: minmax(0, 1fr);
  }
  .ask .field {
    width: 100%;
  }
}
</style>
