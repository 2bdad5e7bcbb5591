<script setup lang="ts">
import CalculatorFrame from './CalculatorFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import { api, need } from '@/api/client';
import TextField from '@/components/form/TextField.vue';
import { useCalculator } from './useCalculator';
import { useModels } from '@/composables/useModels';
import { newCharger } from '@/features/equipment/useEquipment';
import { useMe } from '@/stores/me';
import { reactive } from 'vue';
import AuditLines from './AuditLines.vue';

const store = useMe();
const FIRST = 'flooded-6v-420';
const { options } = useModels(FIRST);
const typed = reactive({
  model: FIRST,
  cells: '24',
  temperature: { typed: store.me.temperature === 'F' ? '77' : '25', unit: store.me.temperature },
  charger: { ...newCharger(), reference: null },
});
const { answer, failure, fault } = useCalculator(
  () => JSON.parse(JSON.stringify(typed)) as unknown,
  () => need(api.POST('/api/bench/charger', { body: typed })),
);
</script>

<template>
  <CalculatorFrame :failure="failure" :answered="!!answer">
    <ChoiceField v-model="typed.model" class="wide" label="Battery model" :options="options" />
    <TextField v-model="typed.cells" figure label="Cells in series" :error="fault('cells')" />
    <TextField
      v-model="typed.temperature.typed"
      figure
      :label="`Batteries at, °${typed.temperature.unit}`"
      :error="fault('temperature')"
    />
    <h2 class="wide">What the charger is set to</h2>
    <TextField v-model="typed.charger.absorption" figure label="Absorption, V" :error="fault('absorption')" />
    <TextField v-model="typed.charger.float" figure label="Float, V" :error="fault('float')" />
    <TextField
      v-model="typed.charger.equalize"
      figure
      label="Equalize, V"
      hint="empty: off"
      :error="fault('equalize')"
    />
    <TextField
      v-if="typed.charger.compensates"
      v-model="typed.charger.millivolts"
      figure
      label="mV a °C and cell"
      hint="empty: 5"
      :error="fault('millivolts')"
    />
    <CheckField v-model="typed.charger.compensates" class="wide" label="It follows a temperature sensor" />
    <CheckField v-model="typed.charger.flooded_only" class="wide" label="It knows flooded batteries only" />
    <template v-if="answer" #answer>
      <h2>What the bank asks for at this temperature</h2>
      <table class="plain">
        <thead>
          <tr>
            <th>Stage</th>
            <th class="n">Bank, V</th>
            <th class="n">Typed, compensating, V</th>
            <th>How</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in answer.setpoints" :key="s.stage">
            <td>{{ s.stage }}</td>
            <td class="n">{{ s.volts || '–' }}</td>
            <td class="n">{{ s.to_type || '–' }}</td>
            <td class="small">{{ s.said }}</td>
          </tr>
        </tbody>
      </table>
      <p class="small dim">{{ answer.source }} Maker’s manual first.</p>
      <h2>What the settings do</h2>
      <AuditLines v-if="answer.audit" :audit="answer.audit" />
      <p v-else class="dim">Type what the charger is set to.</p>
    </template>
  </CalculatorFrame>
</template>

<style scoped>
section h2 {
  margin: 16px 0 6px;
}
section h2:first-child {
  margin-top: 0;
}
</style>
