<script setup lang="ts">
import type { Schemas } from '@/api/client';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';

const props = defineProps<{
  /** What the notebook brings. */
  check: Schemas['NotebookCheck'];
  busy: boolean;
  /** True once it is in. */
  taken: boolean;
}>();
defineEmits<{ take: [] }>();
type Refused = Schemas['RefusedLine'];
type Asked = Schemas['AskedField'];
const rounds: Column<Schemas['NotebookRound']>[] = [
  { key: 'day', title: 'Day', said: (r) => r.day, sort: (r) => r.date },
  {
    key: 'cells',
    title: 'Cells',
    figure: true,
    said: (r) => (r.cells ? `${r.cells} of ${props.check.cells_in_bank}` : 'none'),
    sort: (r) => r.cells,
  },
  {
    key: 'temperature',
    title: 'Temperature',
    said: (r) => r.temperature ?? (r.cells ? 'unknown: judged with a wider margin' : ''),
  },
  { key: 'volts', title: 'Volts', figure: true, said: (r) => r.volts ?? '' },
  { key: 'water', title: 'Water', figure: true, said: (r) => r.water ?? '' },
];
const refused: Column<Refused>[] = [
  { key: 'line', title: 'Line', figure: true, said: (r) => r.line, sort: (r) => r.line },
  { key: 'date', title: 'Column', said: (r) => r.date ?? '', sort: (r) => r.date ?? '' },
  { key: 'found', title: 'Found', said: (r) => r.found, sort: (r) => r.found },
  { key: 'why', title: 'Why', said: (r) => r.why, sort: (r) => r.why, narrow: (r) => r.why },
];
const asked: Column<Asked>[] = [
  { key: 'date', title: 'Column', said: (a) => a.date, sort: (a) => a.date },
  { key: 'cell', title: 'Of', said: (a) => a.cell, sort: (a) => a.cell },
  { key: 'found', title: 'Found', said: (a) => a.found, sort: (a) => a.found },
  { key: 'why', title: 'Why', said: (a) => a.why, sort: (a) => a.why },
];
const count = (n: number, one: string): string => (n === 1 ? `1 ${one}` : `${n} ${one}s`);
</script>

<template>
  <section class="check" aria-label="What the notebook brings">
    <h2>
      {{ count(check.rounds.length, 'day') }} can be taken,
      {{ count(check.refused.length + check.refused_more, 'entry').replace('entrys', 'entries') }}
      refused<template v-if="check.asked.length"
        >, {{ check.asked.length + check.asked_more }} to look at again</template
      >
    </h2>
    <div class="two">
      <div>
        <DataTable
          :id="(r) => r.date"
          label="Days that can be taken"
          :columns="rounds"
          :rows="check.rounds"
          :height="check.rounds.length > 12 ? 420 : undefined"
          empty="No day in it that can be taken."
        />
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
        <template v-if="check.refused.length">
          <h3>Refused</h3>
          <DataTable
            :id="(r) => `${r.line} ${r.date} ${r.found}`"
            label="Refused"
            :columns="refused"
            :rows="check.refused"
            :height="check.refused.length > 12 ? 420 : undefined"
          />
        </template>
        <p v-if="check.refused_more" class="dim">
          and {{ check.refused_more }} more; mend these and check again.
        </p>
        <template v-if="check.asked.length">
          <h3>Unlikely: look at the page again. Taking them keeps them.</h3>
          <DataTable
            :id="(a) => `${a.date} ${a.cell}`"
            label="Unlikely"
            :columns="asked"
            :rows="check.asked"
            :height="check.asked.length > 12 ? 420 : undefined"
          />
        </template>
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
.two h3:not(:first-child) {
  margin-top: 14px;
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
</style>
