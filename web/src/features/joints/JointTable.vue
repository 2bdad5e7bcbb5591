<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

const props = defineProps<{
  /** Joints and strings. */
  view: Schemas['JointsView'];
}>();
const read = computed(() => props.view.joints.filter((j) => j.millivolts));
const bad = computed(() => read.value.filter((j) => j.todo));
const rest = computed(() => read.value.filter((j) => !j.todo));
</script>

<template>
  <template v-if="read.length">
    <table class="joints">
      <caption class="visually-hidden">
        Joints that ask for something
      </caption>
      <thead>
        <tr>
          <th scope="col">Joint</th>
          <th scope="col" class="n">drop, mV</th>
          <th scope="col" class="n wide">through it, A</th>
          <th scope="col" class="n">resistance, mΩ</th>
          <th scope="col" class="n">over like joints</th>
          <th scope="col" class="n wide">before</th>
          <th scope="col">do</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="j in bad" :key="j.name" :class="j.condition">
          <th scope="row">{{ j.name }}</th>
          <td class="n">{{ j.millivolts }}</td>
          <td class="n wide">{{ j.through }}</td>
          <td class="n">{{ j.milliohms }}</td>
          <td class="n">{{ j.over || '–' }}</td>
          <td class="n wide">{{ j.last || '–' }}</td>
          <td>{{ j.todo }}</td>
        </tr>
        <tr v-if="!bad.length">
          <td colspan="7" class="dim">No joint asks for anything.</td>
        </tr>
      </tbody>
    </table>
    <details v-if="rest.length" class="rest">
      <summary>{{ view.joints_said }}</summary>
      <ul>
        <li v-for="j in rest" :key="j.name">
          <b>{{ j.name }}</b> {{ j.millivolts }} mV at {{ j.through }} A, {{ j.milliohms }} mΩ<template
            v-if="j.over"
            >, {{ j.over }} its like</template
          ><template v-if="j.last">; before {{ j.last }}</template
          >; {{ j.day }}
        </li>
      </ul>
    </details>
    <p v-else class="small dim">{{ view.joints_said }}</p>
  </template>
  <p v-else class="dim">
    No joint was measured yet. Millivolts across each of them, while a known current flows, show the one that
    differs from its like.
  </p>
</template>

<style scoped>
.joints {
  width: 100%;
  border-collapse: collapse;
  margin-top: 10px;
}
th,
td {
  text-align: left;
  padding: 5px 10px 5px 0;
  border-bottom: 1px solid var(--line);
}
thead th {
  font: var(--t-small);
  color: var(--ink-2);
  border-bottom-color: var(--line-strong);
}
tbody th,
td.n {
  font: 600 13px var(--mono);
}
.n {
  text-align: right;
}
.act th,
.act td {
  color: var(--act-text);
}
.rest {
  margin-top: 8px;
}
.rest li {
  border-top: 1px solid var(--line);
  padding: 4px 0;
  font: var(--t-small);
}
@media (max-width: 720px) {
  .wide {
    display: none;
  }
}
</style>
