<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import type { Schemas } from '@/api/client';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';

const props = defineProps<{
  /** What to load. */
  van: Schemas['VanView'];
  /** The day it is loaded on. */
  day: string;
}>();
defineEmits<{ choose: [bank: string] }>();
const GROUPS: [Schemas['GearGroup'], string][] = [
  ['wear', 'Wear'],
  ['measure', 'Measure with'],
  ['fit', 'Fit'],
];
const groups = computed(() =>
  GROUPS.map(([key, name]) => ({ name, things: props.van.things.filter((t) => t.group === key) })).filter(
    (g) => g.things.length,
  ),
);
/** What is already in the van, on this device; another day begins empty. */
const kept = useLocalStorage('van', { day: '', things: [] as string[] });
const loaded = computed(() => (kept.value.day === props.day ? kept.value.things : []));
function tick(what: string): void {
  const had = loaded.value.includes(what);
  const things = had ? loaded.value.filter((t) => t !== what) : [...loaded.value, what];
  kept.value = { day: props.day, things };
}
const chosen = computed(() => props.van.trips.filter((t) => t.chosen));
</script>

<template>
  <section class="van" aria-label="Load the van">
    <h2>Load the van</h2>
    <p class="small">
      {{ chosen.length ? `for ${chosen.map((t) => t.site).join(', ')}` : 'Choose the visits to load for.' }}
    </p>
    <template v-if="chosen.length">
      <p class="water">
        <b class="fig">{{ van.water }}</b> <span>{{ van.unit }}</span>
      </p>
      <ul class="sums">
        <li v-for="w in van.by_bank" :key="w.site">
          <span>{{ w.site }}, nine times in ten less</span><b class="fig">{{ w.said }}</b>
        </li>
        <li v-if="van.by_bank.length">
          <span>a quarter spare</span><b class="fig">{{ van.spare }}</b>
        </li>
        <li v-else><span>no fill is forecast for these visits</span></li>
      </ul>
      <template v-for="g in groups" :key="g.name">
        <h3>{{ g.name }}</h3>
        <ul>
          <li v-for="t in g.things" :key="t.what">
            <CheckField class="thing" :model-value="loaded.includes(t.what)" @change="tick(t.what)"
              ><span
                >{{ t.what }} <span v-if="t.whereto" class="small dim">{{ t.whereto }}</span></span
              ></CheckField
            >
          </li>
        </ul>
      </template>
    </template>
    <h3>Visits</h3>
    <ul class="trips" aria-label="Visits to load for">
      <li v-for="t in van.trips" :key="t.bank">
        <CheckField class="thing" :model-value="t.chosen" @change="$emit('choose', t.bank)">{{
          t.site
        }}</CheckField>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.water {
  margin: 8px 0 6px;
  font: 600 14px/20px var(--text);
}
.water .fig {
  font: 600 40px/44px var(--mono);
  margin-right: 6px;
}
.sums li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  border-bottom: 1px solid var(--line);
  padding: 5px 0;
  font: var(--t-small);
}
h3 {
  font: 600 13px/18px var(--text);
  border-bottom: 1px solid var(--line-strong);
  padding: 14px 0 5px;
  margin-bottom: 4px;
}
.thing {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-height: 27px;
  padding: 3px 0;
}
.trips {
  max-height: 320px;
  overflow-y: auto;
}
@media (max-width: 720px) {
  .thing {
    min-height: 44px;
    align-items: center;
  }
}
@media print {
  .trips,
  .van > h3:last-of-type {
    display: none;
  }
}
</style>
