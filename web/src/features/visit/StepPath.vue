<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** The steps. */
  steps: Schemas['StepView'][];
}>();
/** The step that is shown. */
const step = defineModel<Schemas['Step']>({ required: true });
const said = (s: Schemas['StepView']): string =>
  s.state === 'done'
    ? 'done'
    : s.state === 'skipped'
      ? 'left out'
      : s.done
        ? s.of
          ? `${s.done} of ${s.of}`
          : `${s.done} noted`
        : '';
const mark = (s: Schemas['StepView']): string => s.state ?? (s.done ? 'begun' : 'open');
</script>

<template>
  <nav class="path" aria-label="Steps of the visit">
    <ol>
      <li v-for="(s, i) in steps" :key="s.step">
        <button
          type="button"
          :class="{ on: step === s.step }"
          :aria-current="step === s.step ? 'step' : undefined"
          @click="step = s.step"
        >
          <svg width="20" height="20" viewBox="-10 -10 20 20" aria-hidden="true">
            <circle r="7.5" :class="`dot ${mark(s)}`" />
            <path v-if="s.state === 'done'" class="tick" d="M-3.6 0.3l2.6 2.8 4.6-5.6" />
            <path v-if="s.state === 'skipped'" class="dash" d="M-3.5 0h7" />
          </svg>
          <span class="name">{{ s.name }}</span>
          <span class="small dim">{{ said(s) }}</span>
        </button>
        <i v-if="i < steps.length - 1" class="link" aria-hidden="true" />
      </li>
    </ol>
  </nav>
</template>

<style scoped>
button {
  display: grid;
  grid-template-columns: 24px 1fr;
  column-gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
  background: none;
  border: 0;
  border-radius: var(--radius);
  padding: 7px 8px;
  min-height: 46px;
  color: var(--ink);
  font: 600 14px/18px var(--text);
  cursor: pointer;
}
button .small {
  grid-column: 2;
  font-weight: 400;
}
button .small:empty {
  display: none;
}
button.on {
  background: var(--sunk);
  box-shadow: inset 3px 0 0 var(--action);
}
.dot {
  fill: var(--surface);
  stroke: var(--line-strong);
  stroke-width: 1.5;
}
.dot.begun {
  stroke: var(--action);
  stroke-width: 2.5;
}
.dot.done {
  fill: var(--action);
  stroke: var(--action);
}
.dot.skipped {
  stroke-dasharray: 2.6 2.2;
}
.tick {
  fill: none;
  stroke: var(--on-action);
  stroke-width: 2;
}
.dash {
  stroke: var(--ink-3);
  stroke-width: 2;
}
.link {
  display: block;
  width: 2px;
  height: 8px;
  margin-left: 17px;
  background: var(--line-strong);
}
@media (max-width: 720px) {
  ol {
    display: flex;
    overflow-x: auto;
    gap: 2px;
  }
  li {
    flex: none;
  }
  .link {
    display: none;
  }
  button {
    padding: 8px 12px 8px 8px;
    min-height: 48px;
    white-space: nowrap;
  }
  button .small {
    display: none;
  }
  button.on {
    box-shadow: inset 0 -3px 0 var(--action);
  }
}
</style>
