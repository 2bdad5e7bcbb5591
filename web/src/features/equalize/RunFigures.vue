<script setup lang="ts">
import type { RunPage } from './useRun';

defineProps<{
  /** The page of the run. */
  page: RunPage;
}>();
</script>

<template>
  <dl class="figures">
    <div>
      <dt>On equalize</dt>
      <dd>
        <b class="fig">{{ page.elapsed }}</b> h
      </dd>
      <dd class="small">{{ page.cap }}</dd>
    </div>
    <div>
      <dt>Hottest electrolyte</dt>
      <dd>
        <b class="fig">{{ page.temperature || '–' }}</b>
      </dd>
      <dd class="small">{{ page.temperature_limits }}</dd>
    </div>
    <div>
      <dt>Bank</dt>
      <dd class="line">{{ page.volts || 'volts not read' }}</dd>
      <dd class="line">{{ page.amperes || 'amperes not read' }}</dd>
      <dd class="small">{{ page.most_amperes }}</dd>
    </div>
    <div>
      <dt>Boiled off, at most</dt>
      <dd>
        <b class="fig">{{ page.water }}</b>
      </dd>
      <dd class="small">{{ page.water_how }}</dd>
    </div>
    <div>
      <dt>Air needed</dt>
      <dd>
        <b class="fig">{{ page.air }}</b>
      </dd>
      <dd class="small">{{ page.air_how }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.figures > div {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 10px;
  align-items: baseline;
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
}
.figures > div:first-child {
  padding-top: 0;
}
dt {
  font: 600 14px/20px var(--text);
}
.fig {
  font: 600 22px/28px var(--mono);
}
.small {
  grid-column: 1 / -1;
}
.line {
  grid-column: 1 / -1;
  font: 500 15px/21px var(--text);
}
</style>
