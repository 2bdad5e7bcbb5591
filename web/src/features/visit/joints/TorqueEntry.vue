<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import TorqueLog from '@/features/joints/TorqueLog.vue';
import { computed, ref } from 'vue';
import type { Visit } from '../useVisit';
import { sayJoint, type JointsOfStep } from './useJoints';

const props = defineProps<{
  /** The step as it stands. */
  own: JointsOfStep;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const place = ref('');
const torque = ref('');
const remade = ref(false);
const note = ref('');
const question = ref<string | null>(null);
const places = computed(() => [
  { value: '', label: 'Every joint of the bank' },
  ...props.page.plan.rows
    .flatMap((r) => r.batteries.map((b) => b.address))
    .map((b) => ({ value: b, label: `Joints of ${b}` })),
]);
async function keep(stands = false): Promise<void> {
  const asked = await sayJoint(
    props.visit,
    {
      joint: 'torqued',
      torque: torque.value,
      torque_unit: props.own.torque_unit,
      remade: remade.value,
      note: note.value,
      stands,
    },
    place.value,
  );
  question.value = asked ?? null;
  if (asked === null) note.value = '';
}
</script>

<template>
  <section class="torque">
    <FormFrame
      v-if="visit.open.value"
      class="entry"
      :failure="visit.failure.value"
      elsewhere
      @submit="keep()"
    >
      <ChoiceField v-model="place" class="where" label="Set to torque" :options="places" />
      <TextField
        v-model="torque"
        figure
        class="short"
        :label="own.torque_unit === 'pound_foot' ? 'Torque, lbf·ft' : 'Torque, N·m'"
        placeholder="no wrench"
        :error="visit.fault('torque', 'joint', place)"
      />
      <CheckField v-model="remade" label="taken apart, cleaned, made anew" />
      <TextField v-model="note" class="where" label="What was found" placeholder="a quarter turn" />
      <button type="submit" class="btn" :disabled="visit.saving.value">Keep the torque</button>
      <div v-if="question" class="asking" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Type it again</button>
        <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
      </div>
    </FormFrame>
    <TorqueLog
      :lines="own.torque"
      :asked="own.torque_asked"
      :mine="visit.open.value ? own.torqued : []"
      @wrong="visit.takeBack($event, 'The torque is taken back.')"
    />
  </section>
</template>

<style scoped>
.torque {
  border-top: 1px solid var(--line);
  margin-top: 14px;
  padding-top: 10px;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin-bottom: 12px;
}
.short {
  width: 130px;
}
.where {
  width: 210px;
}
.asking {
  flex: 1 1 100%;
}
@media (max-width: 720px) {
  .where,
  .entry > .btn {
    flex: 1 1 100%;
  }
  .entry > .btn {
    height: 48px;
  }
}
</style>
