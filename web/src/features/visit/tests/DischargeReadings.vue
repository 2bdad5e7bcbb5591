<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import type { Visit } from '../useVisit';

const props = defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
  /** The visit. */
  visit: Visit;
}>();
const newest = computed(() => [...props.own.readings].reverse());
</script>

<template>
  <details v-if="own.readings.length" class="readings">
    <summary>Every reading</summary>
    <div class="scroll" tabindex="0" role="region" aria-label="Readings of the discharge">
      <table class="plain">
        <thead>
          <tr>
            <th>Load on for</th>
            <th class="n">V</th>
            <th class="n">A</th>
            <th v-for="m in own.mates.length > 1 ? own.mates : []" :key="m.battery" class="n">
              {{ m.battery }}
            </th>
            <th class="n">Hottest</th>
            <th>By</th>
            <th v-if="visit.open.value"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in newest" :key="r.entry">
            <td>{{ r.at }}</td>
            <td class="n">{{ r.volts || '–' }}</td>
            <td class="n">{{ r.amperes || '–' }}</td>
            <td v-for="(b, i) in own.mates.length > 1 ? r.batteries : []" :key="i" class="n">
              {{ b || '–' }}
            </td>
            <td class="n">{{ r.temperature || '–' }}</td>
            <td>{{ r.by }}</td>
            <td v-if="visit.open.value">
              <button
                type="button"
                class="btn sm quiet"
                :aria-label="`Wrong entry: reading at ${r.at}`"
                @click="visit.takeBack(r.entry, 'The reading is taken back.')"
              >
                Wrong entry
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </details>
</template>

<style scoped>
.readings {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 6px;
}
summary {
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
</style>
