<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import type { Run, RunPage } from './useRun';
import { onMounted, reactive, ref } from 'vue';
import TextField from '@/components/form/TextField.vue';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
}>();
const emit = defineEmits<{ close: [] }>();
const gravities = ref(props.page.watched.map(() => ''));
const typed = reactive({ temperature: '', volts: '', amperes: '' });
const question = ref('');
const fault = (field: string): string => props.run.failure.value?.fields[field] ?? '';

async function keep(stands: boolean): Promise<void> {
  const said = await props.run.say({
    what: 'read',
    gravities: gravities.value,
    temperature: typed.temperature ? { typed: typed.temperature, unit: props.page.degrees_unit } : null,
    volts: typed.volts,
    amperes: typed.amperes,
    stands,
  });
  question.value = said ?? '';
  if (said === null) emit('close');
}
onMounted(() => {
  props.run.forgive();
  document.getElementById('r-0')?.focus();
});
</script>

<template>
  <FormFrame
    class="reading"
    aria-label="A reading"
    elsewhere
    :failure="run.failure.value"
    @submit="keep(false)"
  >
    <p v-if="page.phase === 'running'" class="small caution">
      Charger paused five minutes, fan on, face shield down. Nobody leans over gassing cells.
    </p>
    <TextField
      v-for="(w, i) in page.watched"
      :id="`r-${i}`"
      :key="w.cell"
      v-model="gravities[i]"
      figure
      :label="`${w.cell}, ${w.role}, gravity as read`"
      :hint="w.gravity ? `last ${w.gravity}, corrected` : '1265 or 265'"
      :error="fault(`gravities[${i}]`)"
    />
    <TextField
      v-model="typed.temperature"
      figure
      :label="`Hottest electrolyte, °${page.degrees_unit}`"
      :error="fault('temperature')"
    />
    <div class="two">
      <TextField
        v-model="typed.volts"
        figure
        label="Bank, V"
        :hint="page.feed.live ? `charger ${page.feed.volts}` : ''"
        :error="fault('volts')"
      />
      <TextField
        v-model="typed.amperes"
        figure
        label="Bank, A"
        :hint="page.feed.live ? `charger ${page.feed.amperes}` : ''"
        :error="fault('amperes')"
      />
    </div>
    <div v-if="question" class="asking" role="alert">
      <p>{{ question }}</p>
      <button type="button" class="btn" @click="keep(true)">Keep it as read</button>
    </div>
    <p class="do">
      <button type="button" class="btn" @click="emit('close')">Back</button>
      <button type="submit" class="btn go" :disabled="run.saving.value">
        {{ question ? 'Judge it again' : 'Keep the reading' }}
      </button>
    </p>
  </FormFrame>
</template>

<style scoped>
.reading {
  display: grid;
  gap: 10px;
  border: 3px solid var(--action);
  border-radius: var(--radius);
  padding: 12px;
  background: var(--surface);
  margin-top: 8px;
}
.reading :deep(input.mono) {
  font-size: 20px;
  height: 48px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.caution {
  color: var(--act-text);
  font-weight: 600;
}
.do {
  display: flex;
  gap: 10px;
}
.do .go {
  flex: 1;
}
@media (max-width: 720px) {
  .reading :deep(input.mono) {
    font-size: 28px;
    height: 60px;
  }
}
</style>
