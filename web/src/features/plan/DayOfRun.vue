<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue';

const props = defineProps<{
  /** Days that are shown, the last one last. */
  days: number[];
}>();
/** Place of the day that is looked at. */
const at = defineModel<number>({ required: true });
/** Milliseconds a day that is shown stands while it runs. */
const FRAME = 90;
const running = ref(0);
function stop(): void {
  window.clearInterval(running.value);
  running.value = 0;
}
function run(): void {
  if (running.value) return stop();
  at.value = 0;
  running.value = window.setInterval(() => {
    if (at.value >= props.days.length - 1) stop();
    else at.value += 1;
  }, FRAME);
}
function look(place: number | [number, number]): void {
  stop();
  at.value = Number(place);
}
onBeforeUnmount(stop);
</script>

<template>
  <div class="run">
    <button type="button" class="btn sm" @click="run">{{ running ? 'Stop' : 'Run the days' }}</button>
    <a-slider
      class="days"
      :value="at"
      :min="0"
      :max="days.length - 1"
      :tooltip-open="false"
      :handle-style="{ borderColor: 'var(--action)' }"
      aria-label-for-handle="Day of the strings"
      :aria-value-text-formatter-for-handle="(place: number) => `day ${days[place] ?? ''}`"
      @update:value="look"
    />
    <span class="day"
      >day <b>{{ days[at] }}</b></span
    >
  </div>
</template>

<style scoped>
.run {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 8px 0;
}
.days {
  flex: 1 1 90px;
}
.day {
  width: 58px;
  color: var(--ink-2);
}
.day b {
  font-family: var(--mono);
  color: var(--ink);
}
</style>
