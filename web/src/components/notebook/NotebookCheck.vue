<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** What the notebook brings. */
  check: Schemas['NotebookCheck'];
  busy: boolean;
  /** True once it is in. */
  taken: boolean;
}>();
defineEmits<{ take: [] }>();
const count = (n: number, one: string): string => (n === 1 ? `1 ${one}` : `${n} ${one}s`);
</script>

<template>
  <section class="check" aria-label="What the notebook brings">
    <h2>
      {{ count(check.rounds.length, 'round') }} can be taken,
      {{ count(check.refused.length + check.refused_more, 'entry').replace('entrys', 'entries') }}
      refused<template v-if="check.asked.length"
        >, {{ check.asked.length + check.asked_more }} to look at again</template
      >
    </h2>
    <div class="two">
      <div>
        <table v-if="check.rounds.length" class="plain">
          <thead>
            <tr>
              <th>Round</th>
              <th class="n">Cells</th>
              <th>Temperature</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in check.rounds" :key="r.date">
              <td>{{ r.day }}</td>
              <td class="n">{{ r.cells }} of {{ check.cells_in_bank }}</td>
              <td>{{ r.temperature ?? 'unknown: judged with a wider margin' }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="dim">No round in it that can be taken.</p>
        <p>
          <button
            type="button"
            class="btn go"
            :disabled="busy || !check.rounds.length || taken"
            @click="$emit('take')"
          >
            {{ busy ? 'Taking' : check.refused.length ? 'Take the good ones' : 'Take them' }}
          </button>
        </p>
      </div>
      <div>
        <table v-if="check.refused.length" class="plain">
          <caption>
            Refused
          </caption>
          <thead>
            <tr>
              <th class="n">Line</th>
              <th>Column</th>
              <th>Found</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in check.refused" :key="i">
              <td class="n">{{ r.line }}</td>
              <td class="fig">{{ r.date ?? '' }}</td>
              <td class="fig">{{ r.found }}</td>
              <td>{{ r.why }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="check.refused_more" class="dim">
          and {{ check.refused_more }} more; mend these and check again.
        </p>
        <table v-if="check.asked.length" class="plain">
          <caption>
            Unlikely: look at the page again. Taking them keeps them.
          </caption>
          <thead>
            <tr>
              <th>Column</th>
              <th>Cell</th>
              <th>Found</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="a in check.asked" :key="`${a.date} ${a.cell}`">
              <td class="fig">{{ a.date }}</td>
              <td class="fig">{{ a.cell }}</td>
              <td class="fig">{{ a.found }}</td>
              <td>{{ a.why }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="check.asked_more" class="dim">and {{ check.asked_more }} more.</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.check {
  border-top: 1px solid var(--line);
  margin-top: 14px;
  padding-top: 12px;
}
.two {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(0, 2fr);
  gap: 28px;
  margin-top: 8px;
}
p {
  margin: 10px 0;
}
@media (max-width: 980px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
.two {
  align-items: start;
}
caption {
  text-align: left;
  font: var(--t-label);
  color: var(--ink-2);
  padding: 6px 0;
}
td.n,
td.fig,
td:first-child {
  white-space: nowrap;
}
</style>
