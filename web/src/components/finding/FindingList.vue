<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { computed, ref } from 'vue';

const props = withDefaults(
  defineProps<{
    /** Findings, worst first. */
    findings: Schemas['SpokenFinding'][];
    /** Shown before "all". */
    first?: number;
    /** What can be shown where the list stands, and is picked by its head line. */
    picks?: ('cell' | 'battery')[];
  }>(),
  { first: 5, picks: () => ['cell'] },
);
defineEmits<{ pick: [cell: string] }>();
const all = ref(false);
/** What a cause explains stands under it, and has no place of its own. */
const ids = computed(() => new Set(props.findings.map((f) => f.id)));
const isUnder = (f: Schemas['SpokenFinding'], cause: string): boolean => f.explained_by === cause;
const causes = computed(() =>
  props.findings.filter((f) => !f.explained_by || !ids.value.has(f.explained_by)),
);
function explained(cause: string): Schemas['SpokenFinding'][] {
  const own = props.findings.filter((f) => isUnder(f, cause));
  return own.flatMap((f) => [f, ...explained(f.id)]);
}
const shown = computed(() => (all.value ? causes.value : causes.value.slice(0, props.first)));
</script>

<template>
  <ul v-if="findings.length">
    <li v-for="f in shown" :key="f.id">
      <div class="head">
        <ConditionMark :condition="f.severity" :size="18" />
        <h3>
          <button
            v-if="(f.subject === 'cell' || f.subject === 'battery') && picks.includes(f.subject)"
            type="button"
            class="pick"
            @click="$emit('pick', f.which)"
          >
            <CellWords :text="f.headline" />
          </button>
          <template v-else><CellWords :text="f.headline" /></template>
        </h3>
      </div>
      <p><CellWords :text="f.seen" /></p>
      <p class="why">{{ f.why }}</p>
      <p class="do"><CellWords :text="f.advice" /></p>
      <p v-if="f.others" class="others">{{ f.others }}</p>
      <details>
        <summary>{{ f.rule }}</summary>
        <p class="rule">{{ f.source }} {{ f.sure }}</p>
      </details>
      <details v-for="e in explained(f.id)" :key="e.id" class="explained">
        <summary>
          <ConditionMark :condition="e.severity" :size="14" />
          <span>Explained by it: <CellWords :text="e.headline" /></span>
        </summary>
        <p><CellWords :text="e.seen" /></p>
        <p class="do"><CellWords :text="e.advice" /></p>
        <p class="rule">{{ e.rule }}. {{ e.source }} {{ e.sure }}</p>
      </details>
    </li>
  </ul>
  <p v-else class="dim">Nothing found that asks for anything.</p>
  <button v-if="causes.length > first" type="button" class="btn sm" @click="all = !all">
    {{ all ? 'Show fewer' : `Show all ${causes.length}` }}
  </button>
</template>

<style scoped>
li {
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
.head {
  display: flex;
  gap: 7px;
  align-items: center;
  margin: 0 0 3px -1px;
}
.pick {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  text-align: left;
  text-decoration: underline;
  text-decoration-color: var(--line-strong);
  text-underline-offset: 3px;
}
li p {
  font: 400 13px/17px var(--text);
  color: var(--ink-2);
  margin-left: 24px;
  text-wrap: pretty;
}
li p.why {
  margin-top: 3px;
}
li p.do {
  color: var(--ink);
  font-weight: 600;
  margin-top: 3px;
}
li p.others {
  margin-top: 3px;
  font-style: italic;
}
details {
  margin: 3px 0 0 24px;
}
summary {
  font: 400 12px/16px var(--text);
  color: var(--ink-3);
  cursor: pointer;
}
.explained summary {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--ink-2);
  min-height: 24px;
}
.explained summary::after {
  content: '▸';
  color: var(--ink-3);
}
.explained[open] summary::after {
  content: '▾';
}
.explained p,
.explained p.rule {
  margin-left: 20px;
}
details:not(.explained) p.rule {
  margin-left: 0;
}
details p.rule {
  font: 400 12px/16px var(--text);
  color: var(--ink-3);
}
</style>
