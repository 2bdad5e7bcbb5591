<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { computed, ref, watch } from 'vue';
import DayOfRun from './DayOfRun.vue';
import StringDrawn from './StringDrawn.vue';

const props = defineProps<{
  /** Ways to go. */
  options: Schemas['PlanOption'][];
  /** Key of the one that is looked at. */
  chosen: string;
  /** Side by side over the whole width. */
  wide?: boolean;
}>();
/** Days of the strings that are run: all of them alike. */
const days = computed(
  () => props.options.find((o) => o.string?.days.length)?.string?.days.map((d) => d.day) ?? [],
);
const at = ref(0);
watch(
  () => days.value.length,
  (count) => (at.value = Math.max(0, count - 1)),
  { immediate: true },
);
defineEmits<{ choose: [key: string] }>();
const MARK = { would: '✓', may: '–', would_not: '×' } as const;
const WORD = { would: 'would', may: 'may', would_not: 'would not' } as const;
</script>

<template>
  <DayOfRun v-if="days.length" v-model="at" :days="days" />
  <ul class="options" :class="{ wide }" aria-label="Ways to go">
    <li v-for="(o, i) in options" :key="o.key" :class="{ on: o.key === chosen, refused: o.refused }">
      <button type="button" :aria-pressed="o.key === chosen" @click="$emit('choose', o.key)">
        <span class="name"
          ><ConditionMark :condition="o.condition" /><b>{{ o.name }}</b
          ><i v-if="o.best">advised</i><kbd v-if="i < 9">{{ i + 1 }}</kbd></span
        >
        <span v-if="o.about" class="small dim">{{ o.about }}</span>
        <span class="figures">
          <template v-for="f in o.figures" :key="f.name">
            <span>{{ f.name }}</span>
            <span class="value"
              ><b>{{ f.value }}</b
              >{{ f.unit ? ` ${f.unit}` : '' }}<em v-if="f.note">{{ f.note }}</em></span
            >
          </template>
        </span>
        <StringDrawn v-if="o.string" :string="o.string" :at="at" />
        <span v-if="o.refused" class="says">{{ o.refused }}</span>
        <span v-else-if="o.comes_to" class="says">{{ o.comes_to }}</span>
      </button>
      <RouterLink v-if="o.go" class="btn sm goes" :to="o.go.to">{{ o.go.label }}</RouterLink>
      <details v-if="o.schools.length" class="schools">
        <summary>What the schools would do</summary>
        <p v-for="s in o.schools" :key="s.name" :class="s.says">
          <i aria-hidden="true">{{ MARK[s.says] }}</i><b>{{ s.name }}</b> {{ WORD[s.says]
          }}<template v-if="s.why">: {{ s.why }}</template>
        </p>
      </details>
    </li>
  </ul>
</template>

<style scoped>
.options {
  display: grid;
  gap: 0;
}
li {
  border-bottom: 1px solid var(--line);
  border-left: 4px solid transparent;
}
li.on {
  background: var(--raised);
  border: 1px solid var(--action);
  border-left: 4px solid var(--action);
  border-radius: var(--radius);
}
li.refused {
  opacity: 0.75;
  border-bottom-style: dashed;
}
button {
  display: grid;
  gap: 4px;
  width: 100%;
  padding: 10px 12px;
  border: 0;
  background: transparent;
  color: var(--ink);
  font: var(--t-body);
  text-align: left;
  cursor: pointer;
}
.options.wide {
  grid-template-columns: repeat(auto-fit, minmax(165px, 1fr));
  align-items: start;
  gap: 0 10px;
}
.name {
  display: flex;
  gap: 8px;
  align-items: center;
}
.name i {
  margin-left: auto;
  font: var(--t-small);
  font-style: normal;
  color: var(--action);
  font-weight: 650;
}
.figures {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 10px;
  font: var(--t-small);
  color: var(--ink-2);
}
.value {
  text-align: right;
}
.value b {
  font: 600 14px/18px var(--mono);
  color: var(--ink);
}
.value em {
  display: block;
  font-style: normal;
  color: var(--ink-3);
}
.says {
  font: var(--t-small);
  font-weight: 600;
}
.goes {
  margin: 0 12px 10px;
}
.schools {
  padding: 0 12px 9px;
  font: var(--t-small);
}
.schools summary {
  cursor: pointer;
  color: var(--ink-2);
}
.schools i {
  display: inline-block;
  width: 16px;
  font-style: normal;
  font-weight: 700;
}
.schools .would_not {
  color: var(--ink-2);
}
@media (max-width: 720px) {
  .options.wide {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
