<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ScaleGlyph from './ScaleGlyph.vue';

defineProps<{
  /** One thing the bank may have. */
  own: Schemas['HypothesisView'];
}>();
</script>

<template>
  <li class="row">
    <div class="what">
      <ScaleGlyph :tilt="own.tilt" />
      <p>
        <b class="name">{{ own.name }}</b>
        <span :class="{ sure: own.standing === 'likely' }">{{ own.standing_said }}</span>
      </p>
    </div>
    <ul class="lines against" :aria-label="`Speaks against ${own.name}`">
      <li v-for="line in own.against" :key="line.said">
        <span
          >{{ line.said }} <i>{{ line.group }}</i></span
        >
        <span class="weights" :title="`${line.points} points against`">
          <i v-for="n in line.strong ? 2 : 1" :key="n" class="weight hollow" />
        </span>
      </li>
      <li v-if="!own.against.length" class="none">nothing on record</li>
    </ul>
    <ul class="lines for" :aria-label="`Speaks for ${own.name}`">
      <li v-for="line in own.speaks_for" :key="line.said">
        <span class="weights" :title="`${line.points} points for`">
          <i v-for="n in line.strong ? 2 : 1" :key="n" class="weight" />
        </span>
        <span
          >{{ line.said }} <i>{{ line.group }}</i></span
        >
      </li>
      <li v-if="!own.speaks_for.length" class="none">nothing on record</li>
    </ul>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr) minmax(0, 1.15fr);
  border-bottom: 1px solid var(--line);
}
.what {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 8px 10px 0;
}
.what p {
  display: grid;
  color: var(--ink-2);
}
.name {
  font-size: 15px;
  color: var(--ink);
}
.name::first-letter {
  text-transform: uppercase;
}
.sure {
  color: var(--ink);
  font-weight: 650;
}
.lines {
  display: grid;
  gap: 5px;
  align-content: center;
  padding: 9px 0;
  font: var(--t-small);
  color: var(--ink);
}
.lines li {
  display: flex;
  gap: 9px;
  align-items: baseline;
}
.lines span i {
  font-style: normal;
  color: var(--ink-2);
}
.against {
  text-align: right;
  border-right: 2px solid var(--ink);
}
.against li {
  justify-content: flex-end;
}
.weights {
  display: flex;
  flex: none;
  gap: 2px;
  min-width: 24px;
}
.against .weights {
  justify-content: flex-end;
}
.weight {
  width: 11px;
  height: 11px;
  background: var(--ink);
  border: 2px solid var(--ink);
}
.hollow {
  background: transparent;
}
.lines .none {
  color: var(--ink-2);
  padding: 0 33px;
}
@media (max-width: 700px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
  }
  .against {
    text-align: left;
    border-right: 0;
    padding-bottom: 0;
  }
  .against li {
    flex-direction: row-reverse;
    justify-content: flex-end;
  }
  .against .weights {
    justify-content: flex-start;
  }
  .lines .none {
    display: none;
  }
}
</style>
