<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Run, RunPage } from './useRun';
import { ref } from 'vue';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
}>();
const note = ref('');
async function keep(): Promise<void> {
  if ((await props.run.say({ what: 'note', text: note.value })) === null) note.value = '';
}
</script>

<template>
  <div class="log">
    <div class="scroll">
      <table class="plain">
        <caption class="visually-hidden">
          Readings
        </caption>
        <thead>
          <tr>
            <th>At</th>
            <th v-for="w in page.watched" :key="w.cell" class="n">{{ w.cell }}</th>
            <th v-if="page.watched.length" class="n">mean</th>
            <th class="n">electrolyte</th>
            <th class="n">V</th>
            <th class="n">A</th>
            <th><span class="visually-hidden">Take back</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in [...page.readings].reverse()" :key="r.id">
            <td class="fig at">{{ r.at }}</td>
            <td v-for="(g, i) in r.gravities" :key="i" class="n" :data-of="page.watched[i]?.cell">
              {{ g || '–' }}
            </td>
            <td v-if="page.watched.length" class="n" data-of="mean">{{ r.mean_said || '–' }}</td>
            <td class="n" data-of="electrolyte">{{ r.temperature_said || '–' }}</td>
            <td class="n" data-of="V" :class="{ told: r.volts_told }">{{ r.volts || '–' }}</td>
            <td class="n" data-of="A" :class="{ told: r.amperes_told }">{{ r.amperes || '–' }}</td>
            <td class="back">
              <button
                v-if="page.phase !== 'ended'"
                type="button"
                class="btn quiet sm"
                :aria-label="`Take back the reading of ${r.at}`"
                @click="run.takeBack(r.id, `The reading of ${r.at} is taken back.`)"
              >
                take back
              </button>
            </td>
          </tr>
          <tr v-if="!page.readings.length">
            <td :colspan="page.watched.length + 6">No reading yet.</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="page.readings.some((r) => r.volts_told || r.amperes_told)" class="small dim">
      Slanted volts and amperes: as the charger told them at that minute.
    </p>
    <FormFrame class="note" :failure="run.failure.value" elsewhere @submit="keep">
      <TextField
        v-model="note"
        class="grow"
        quiet
        label="A note of this run"
        :maxlength="1000"
        placeholder="Note something of this run"
      />
      <button type="submit" class="btn" :disabled="!note.trim()">Note it</button>
    </FormFrame>
    <ul>
      <li v-for="(l, i) in page.log" :key="i" class="small">
        <span class="fig">{{ l.at }}</span> {{ l.said }} <span class="dim">{{ l.by }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.told {
  font-style: italic;
  color: var(--ink-2);
}
.log {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 4px;
}
.scroll {
  overflow-x: auto;
}
.plain td {
  padding: 4px 9px 4px 0;
}
.note {
  display: flex;
  gap: 8px;
  margin: 10px 0;
}
li {
  padding: 3px 0;
}
/* On a phone a reading is a line of its own figures, each under its name. */
@media (max-width: 560px) {
  thead {
    display: none;
  }
  tbody tr {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 2px 8px;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  tbody td {
    padding: 0;
    border: 0;
    text-align: left;
  }
  tbody .at {
    grid-column: 1 / 4;
  }
  tbody .back {
    grid-area: 1 / 4;
    text-align: right;
  }
  tbody td[data-of]::before {
    content: attr(data-of);
    display: block;
    font-size: 12px;
    color: var(--ink-2);
  }
  tbody td[colspan] {
    grid-column: 1 / -1;
  }
}
</style>
