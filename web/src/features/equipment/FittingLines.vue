<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

type Fitting = Schemas['TypedFitting'];
const props = defineProps<{
  /** What a fitting can be. */
  kinds: Schemas['EquipmentChoice'][];
  /** What was wrong with a field. */
  fault: (field: string) => string;
}>();
const fittings = defineModel<Fitting[]>({ required: true });
const kinds = computed(() => props.kinds.map((k) => ({ value: k.value as Fitting['kind'], label: k.label })));
</script>

<template>
  <div v-for="(own, i) in fittings" :key="i" class="line">
    <ChoiceField v-model="own.kind" :label="`Fitting ${i + 1}`" :options="kinds" />
    <TextField
      v-model="own.whereto"
      label="Where, and what it serves"
      :error="fault(`fittings[${i}].whereto`)"
    />
    <TextField v-model="own.amperes" figure label="Rated, A" :error="fault(`fittings[${i}].amperes`)" />
    <button type="button" class="btn sm" @click="fittings.splice(i, 1)">
      Take out<span class="visually-hidden"> fitting {{ i + 1 }}</span>
    </button>
  </div>
  <button type="button" class="btn sm" @click="fittings.push({ kind: 'switch', whereto: '', amperes: '' })">
    Add a switch, fuse or balancer
  </button>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(130px, 190px) minmax(0, 1fr) 110px auto;
  gap: 10px 14px;
  align-items: end;
  margin-bottom: 8px;
}
@media (max-width: 620px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
