<script setup lang="ts">
import type { Schemas } from '@/api/client';

type Rules = Schemas['HouseRules'];
defineProps<{
  /** The sets, default first. */
  sets: Rules[];
}>();
const choices: [string, (r: Rules) => string][] = [
  ['Spread: watch', (r) => `${r.spread_watch} points`],
  ['Spread: equalize', (r) => `${r.spread_equalize} points`],
  ['Cell below its mates: suspect', (r) => `${r.cell_suspect} points`],
  [
    'Every-cell round at least every',
    (r) => (r.round_every_days ? `${r.round_every_days} days` : 'start and end of season'),
  ],
  ['Equalize at the latest, cycled flooded', (r) => `${r.equalize_every_days} days`],
  ['Water check at the latest', (r) => `${r.water_check_days} days`],
  ['Hand inspection behind a watering kit', (r) => `every ${r.kit_inspection_fills} fills`],
  ['Planned depth of discharge', (r) => `${r.planned_depth_percent} %`],
  ['Retorque and clean', (r) => `${r.retorque_days} days`],
  ['Load or capacity test', (r) => `${r.test_days} days, standby ${r.test_days_standby}`],
  ['Rest before volts count, settled / usable', (r) => `${r.settled_hours} h / ${r.usable_hours} h`],
  ['Storage check at the latest', (r) => `${r.storage_check_days} days`],
  ['One new block into a bank up to', (r) => `${r.one_new_block_months} months`],
];
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="House rules side by side">
    <table class="plain">
      <thead>
        <tr>
          <th>Choice</th>
          <th v-for="s in sets" :key="s.key">{{ s.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>Suits</td>
          <td v-for="s in sets" :key="s.key" class="small">{{ s.suits }}</td>
        </tr>
        <tr v-for="[name, say] in choices" :key="name">
          <td>{{ name }}</td>
          <td v-for="s in sets" :key="s.key" class="fig">{{ say(s) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
