<script setup lang="ts">
import type { Schemas } from '@/api/client';
import OwnLine from './OwnLine.vue';

defineProps<{
  /** What the figure would mean. */
  preview: Schemas['PreviewView'] | null;
  /** "corrected to 25 °C". */
  said: string;
}>();
</script>

<template>
  <table class="led">
    <tbody>
      <tr class="main">
        <td>{{ said }}</td>
        <td class="x">
          <template v-if="preview?.correction">{{ preview.correction }} points</template>
        </td>
        <td class="v">{{ preview?.corrected ?? '–' }}</td>
      </tr>
      <tr>
        <td>Against the median</td>
        <td class="x">{{ preview?.median ?? 'no mates yet' }}</td>
        <td class="v">{{ preview?.deviation ?? '–' }}</td>
      </tr>
      <tr>
        <td>Its own last reading</td>
        <td class="x">{{ preview?.last ? `${preview.last}, ${preview.last_day}` : 'none' }}</td>
        <td class="v">{{ preview?.change ?? '–' }}</td>
      </tr>
      <tr v-if="preview?.past.length">
        <td>Its last rounds</td>
        <td colspan="2"><OwnLine :past="preview.past" :now="preview.corrected_value ?? null" /></td>
      </tr>
      <tr>
        <td>Spread with it</td>
        <td class="x">{{ preview?.lowest ? `lowest ${preview.lowest}` : '' }}</td>
        <td class="v">{{ preview?.spread ?? '–' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.led {
  width: 100%;
  border-collapse: collapse;
  margin-top: 10px;
}
td {
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
  color: var(--ink-2);
  line-height: 22px;
}
td.v {
  text-align: right;
  font: 600 17px/22px var(--mono);
  color: var(--ink);
  width: 86px;
}
td.x {
  color: var(--ink-3);
  font-size: 13px;
  padding-left: 14px;
  white-space: nowrap;
}
tr.main td {
  color: var(--ink);
  font-weight: 600;
}
tr.main td:first-child::first-letter {
  text-transform: uppercase;
}
tr.main td.v {
  font-size: 28px;
  line-height: 32px;
  font-weight: 700;
  width: 110px;
}
svg {
  margin-left: auto;
}
td:first-child {
  white-space: nowrap;
}
</style>
