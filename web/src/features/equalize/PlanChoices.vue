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
  <div class="kinds" role="radiogroup" aria-label="Kind of run">
    <button
      v-for="k in page.kinds"
      :key="k.kind"
      type="button"
      role="radio"
      :aria-checked="kind === k.kind"
      :class="{ on: kind === k.kind }"
      @click="choose(k.kind)"
    >
      <b>{{ k.name }}<i v-if="k.wanted"> · wanted</i></b>
      <span class="small">{{ k.purpose }}</span>
    </button>
  </div>
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
.kinds button {
  display: flex;
  flex-direction: column;
  gap: 4px;
  text-align: left;
  padding: 10px 12px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: transparent;
  color: var(--ink);
  font: var(--t-body);
  cursor: pointer;
}
.kinds button.on {
  background: var(--sunk);
  border-color: var(--action);
  box-shadow: inset 0 0 0 2px var(--action);
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
