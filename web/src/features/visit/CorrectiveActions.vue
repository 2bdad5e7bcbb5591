<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Visit } from './useVisit';
import { reactive, ref } from 'vue';

/** What was done about what was measured, beside what was found and how it was left. */
const props = defineProps<{
  corrective: Schemas['CorrectiveView'];
  visit: Visit;
}>();
const writing = ref(false);
const draft = reactive({
  place: '',
  action: 'charged_by_itself' as Schemas['CorrectiveAction'],
  note: '',
});
function begin(): void {
  draft.place = props.corrective.places[0]?.place ?? '';
  draft.note = '';
  writing.value = !writing.value;
}
const fault = (field: string): string => props.visit.fault(field, 'corrected');

async function keep(): Promise<void> {
  const { measurement } = props.corrective;
  const { place, action, note } = draft;
  if ((await props.visit.say({ kind: 'corrected', measurement, action, note }, place)) === null)
    writing.value = false;
}
</script>

<template>
  <section class="corrective" :aria-label="'What was done about it'">
    <div class="head">
      <h2>What was done about it</h2>
      <span class="grow" />
      <button
        v-if="visit.open.value"
        type="button"
        class="btn"
        :aria-expanded="writing"
        aria-label="Write down what was done about it"
        @click="begin"
      >
        Write down
      </button>
    </div>
    <p v-for="line in corrective.last_time" :key="line" class="small dim">last time: {{ line }}</p>
    <ul v-if="corrective.done.length">
      <li v-for="d in corrective.done" :key="d.entry">
        <b>{{ d.place_said }}</b>: {{ d.said }}. <span class="small dim">{{ d.by }}</span>
        {{ ' ' }}
        <button
          v-if="visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`${d.place_said}, ${d.said}: wrong entry`"
          @click="visit.takeBack(d.entry, `${d.place_said}: “${d.said}” is taken back.`)"
        >
          Wrong entry
        </button>
      </li>
    </ul>
    <p v-else-if="!writing" class="small dim">Nothing is written down.</p>
    <FormFrame v-if="writing" :failure="visit.failure.value" elsewhere class="form" @submit="keep">
      <ChoiceField
        v-model="draft.place"
        label="Where it was done"
        :options="corrective.places.map((p) => ({ value: p.place, label: p.said }))"
        :error="fault('place')"
      />
      <div class="field wide">
        <span class="label">What was done</span>
        <div class="chips" role="group" aria-label="What was done">
          <button
            v-for="a in corrective.actions"
            :key="a.action"
            type="button"
            class="btn"
            :class="{ go: draft.action === a.action }"
            :aria-pressed="draft.action === a.action"
            @click="draft.action = a.action"
          >
            {{ a.said }}
          </button>
        </div>
      </div>
      <TextField
        v-model="draft.note"
        class="wide"
        :label="draft.action === 'left_as_it_is' ? 'Why it was left' : 'In your words'"
        :hint="draft.action === 'charged_by_itself' ? 'six hours at 10 A' : ''"
        :maxlength="400"
        :error="fault('note')"
      />
      <p v-if="corrective.measurement === 'rest_volts'" class="small wide">
        Volts read after it are noted above, as volts of a state: so the first reading stays.
      </p>
      <p class="press">
        <button type="submit" class="btn go" :disabled="visit.saving.value">Keep what was done</button>
        <button type="button" class="btn" @click="writing = false">Cancel</button>
      </p>
    </FormFrame>
  </section>
</template>

<style scoped>
.corrective {
  border-top: 1px solid var(--line);
  margin-top: 14px;
  padding-top: 10px;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
}
li {
  padding: 4px 0;
}
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  padding-top: 8px;
}
.wide {
  flex: 1 1 100%;
}
.chips,
.press {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
