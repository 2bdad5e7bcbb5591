<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import TextField from '@/components/form/TextField.vue';
import type { Typed } from './useEquipment';

defineProps<{
  /** What was wrong with a field. */
  fault: (field: string) => string;
}>();
const typed = defineModel<Typed>({ required: true });
const inches = typed.value.length === 'inch';
const [room, flow, area, width] = inches ? ['ft³', 'ft³/min', 'in²', 'in'] : ['m³', 'm³/h', 'cm²', 'mm'];
const WAYS = [
  ['inlet', 'Air comes in low by'],
  ['outlet', 'Air leaves high by'],
] as const;
</script>

<template>
  <div class="grid">
    <TextField
      v-model="typed.enclosure"
      figure
      :label="`Air around the bank, ${room}`"
      :error="fault('enclosure')"
    />
    <TextField
      v-model="typed.fan"
      figure
      :label="`A fan moves, ${flow}`"
      hint="empty: no fan"
      :error="fault('fan')"
    />
  </div>
  <div v-for="[way, said] in WAYS" :key="way" class="grid opening">
    <TextField
      v-model="typed[way].size"
      figure
      :label="typed[way].pipe ? `${said} pipes of, ${width} inside` : `${said}, ${area} free`"
      hint="empty: not told"
      :error="fault(`${way}.size`)"
    />
    <TextField
      v-if="typed[way].pipe"
      v-model="typed[way].count"
      figure
      label="How many pipes"
      hint="empty: one"
      :error="fault(`${way}.count`)"
    />
    <CheckField v-model="typed[way].pipe" label="round pipes" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 10px 14px;
}
.opening {
  margin-top: 8px;
  align-items: end;
}
</style>
