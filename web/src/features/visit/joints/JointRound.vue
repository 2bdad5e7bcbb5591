<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { computed, nextTick, ref, watch } from 'vue';
import type { Visit } from '../useVisit';
import { keyOf, sayJoint, type Joint, type JointsOfStep } from './useJoints';

const props = defineProps<{
  /** The step as it stands. */
  own: JointsOfStep;
  /** The visit. */
  visit: Visit;
}>();
/** The joint that is read now. */
const picked = defineModel<Joint | null>('picked', { required: true });
const amperes = ref('');
const resolution = ref('');
const millivolts = ref('');
const question = ref<string | null>(null);
watch(
  () => [props.own.amperes_typed, props.own.resolution_typed],
  ([a, r]) => {
    amperes.value ||= a!;
    resolution.value ||= r!;
  },
  { immediate: true },
);
const here = computed(() => props.own.joints.filter((j) => j.entry));
const current = computed(() => {
  const chosen = picked.value && props.own.joints.find((j) => keyOf(j) === keyOf(picked.value!));
  return chosen ?? props.own.joints.find((j) => !j.entry) ?? props.own.joints[0]!;
});
watch(current, (now) => (picked.value = now), { immediate: true });
function choose(key: string | null | undefined): void {
  picked.value = props.own.joints.find((j) => keyOf(j) === key) ?? null;
  question.value = null;
}
const focus = (): void => void nextTick(() => document.getElementById('joint-millivolts')?.focus());
watch(picked, (now, was) => {
  if (now && was && keyOf(now) !== keyOf(was)) focus();
});
/** Keeps the reading and goes on to the next joint along the strings. */
async function keep(stands = false): Promise<void> {
  if (props.visit.saving.value) return;
  const { battery, pole, part } = current.value;
  const before = keyOf(current.value);
  const asked = await sayJoint(
    props.visit,
    {
      joint: 'drop',
      pole,
      part,
      millivolts: millivolts.value,
      amperes: amperes.value,
      resolution: resolution.value,
      stands,
    },
    battery,
  );
  if (asked) question.value = asked;
  if (asked !== null) return;
  question.value = null;
  millivolts.value = '';
  const all = props.own.joints;
  const at = all.findIndex((j) => keyOf(j) === before);
  const around = [...all.slice(at + 1), ...all.slice(0, at)];
  picked.value = around.find((j) => !j.entry) ?? around[0] ?? null;
  focus();
}
const fault = (field: string): string => props.visit.fault(field, 'joint', current.value.battery);
</script>

<template>
  <section>
    <h2>Millivolts across every joint</h2>
    <FormFrame
      v-if="visit.open.value"
      class="entry"
      :failure="visit.failure.value"
      elsewhere
      @submit="keep()"
    >
      <TextField
        v-model="amperes"
        figure
        class="short"
        label="Current of the bank, A"
        :error="fault('amperes')"
      />
      <TextField
        v-model="resolution"
        figure
        class="short"
        label="Steps of the meter, mV"
        :error="fault('resolution')"
      />
      <ChoiceField
        class="joint"
        :model-value="keyOf(current)"
        label="Joint"
        :options="own.joints.map((j) => ({ value: keyOf(j), label: j.name }))"
        :error="fault('part')"
        @update:model-value="choose"
      />
      <TextField
        id="joint-millivolts"
        v-model="millivolts"
        figure
        class="short"
        :label="`${current.short}, mV`"
        :placeholder="current.millivolts"
        :error="fault('millivolts')"
      />
      <button type="submit" class="btn go" :disabled="visit.saving.value">
        Keep and go on <kbd>Enter</kbd>
      </button>
      <div v-if="question" class="asking" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Read it again</button>
        <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
      </div>
    </FormFrame>
    <p class="small dim">
      {{ here.length }} of {{ own.joints.length }} read on this visit. The load stays on while you go along;
      the more current, the better the meter can tell.
    </p>
    <details v-if="here.length" class="read">
      <summary>What is written down</summary>
      <ul aria-label="Joints read on this visit">
        <li v-for="j in here" :key="keyOf(j)">
          <ConditionMark :condition="j.condition" />
          <span class="grow">{{ j.said }}</span>
          <button
            v-if="visit.open.value"
            type="button"
            class="btn sm quiet"
            :aria-label="`Wrong entry: ${j.name}`"
            @click="visit.takeBack(j.entry, 'The reading is taken back.')"
          >
            Wrong entry
          </button>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
section {
  margin: 10px 0;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
}
.short {
  width: 150px;
}
.joint {
  width: 210px;
}
.asking {
  flex: 1 1 100%;
}
.read li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
.grow {
  flex: 1;
}
@media (max-width: 720px) {
  .short {
    flex: 1 1 40%;
  }
  .joint {
    flex: 1 1 100%;
  }
  .entry > .btn {
    flex: 1 1 100%;
    height: 52px;
  }
}
</style>
