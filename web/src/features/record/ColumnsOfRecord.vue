<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import { computed } from 'vue';

type Column = Schemas['RecordColumn'];
const props = defineProps<{
  /** A first look at the file. */
  look: Schemas['RecordLook'];
  columns: Column[];
  /** What has to be told of them; empty: nothing. */
  error: string;
}>();
const emit = defineEmits<{ set: [columns: Column[]] }>();
const HOLDS: { value: Column; label: string }[] = [
  { value: 'left', label: 'not read' },
  { value: 'time', label: 'time' },
  { value: 'date', label: 'date' },
  { value: 'volts', label: 'volts' },
  { value: 'amperes', label: 'current' },
  { value: 'ampere_hours', label: 'Ah counter' },
  { value: 'celsius', label: 'temperature' },
  { value: 'state', label: 'state' },
];
const named = computed(() => props.columns.map((_, i) => props.look.header[i] || `column ${i + 1}`));
const put = (at: number, own: Column): void =>
  emit(
    'set',
    props.columns.map((now, i) => (i === at ? own : now)),
  );
</script>

<template>
  <fieldset>
    <legend>What its columns hold</legend>
    <p v-if="error" class="fault" role="alert">{{ error }}</p>
    <ul>
      <li v-for="(own, i) in columns" :key="i" :class="{ left: own === 'left' }">
        <ChoiceField
          :label="named[i] ?? ''"
          :options="HOLDS"
          :model-value="own"
          @update:model-value="put(i, $event as Column)"
        />
        <span v-for="(line, n) in look.lines.slice(0, 2)" :key="n" class="sample">{{ line[i] ?? '' }}</span>
      </li>
    </ul>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  min-width: 0;
}
legend {
  padding: 0;
  font-weight: 650;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(158px, 1fr));
  gap: 8px 14px;
}
.sample {
  display: block;
  font: 500 12px/17px var(--mono);
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.left .sample {
  color: var(--ink-3);
}
.fault {
  color: var(--act-text);
  font: var(--t-small);
}
</style>
