<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import type { Visit } from './useVisit';
import { computed, reactive } from 'vue';

/** What was done about something that was found, and how it was left. */
const props = defineProps<{
  check: Schemas['CheckView'];
  /** Key of what was found. */
  found: string;
  /** Where. */
  place: string;
  visit: Visit;
}>();
const emit = defineEmits<{ close: [] }>();
const store = useMe();
const LEFT: { left: Schemas['Left']; said: string }[] = [
  { left: 'put_right', said: 'in order' },
  { left: 'better', said: 'better, not yet right' },
  { left: 'as_found', said: 'as it was found' },
];
const draft = reactive({
  repair: props.check.repairs[0]!.repair,
  left: 'put_right' as Schemas['Left'],
  torque: '',
  unit: (store.me.length === 'inch' ? 'pound_foot' : 'newton_metre') as Schemas['TorqueUnit'],
  agent: '',
  coating: '',
  lock_nuts: false,
  part: '',
  note: '',
});
const chosen = computed(() => props.check.repairs.find((r) => r.repair === draft.repair));
const nothing = computed(() => draft.repair === 'left_as_it_is');
const fault = (field: string): string => props.visit.fault(field, 'repaired', props.place);

async function keep(): Promise<void> {
  const stored = await props.visit.say(
    {
      kind: 'repaired',
      check: props.check.check,
      found: props.found,
      repair: draft.repair,
      left: nothing.value ? 'as_found' : draft.left,
      torque: chosen.value?.torque ? draft.torque : '',
      torque_unit: draft.unit,
      agent: chosen.value?.cleans ? draft.agent : '',
      coating: chosen.value?.joint ? draft.coating : '',
      lock_nuts: !!chosen.value?.joint && draft.lock_nuts,
      part: draft.part,
      note: draft.note,
    },
    props.place,
  );
  if (stored === null) emit('close');
}
</script>

<template>
  <FormFrame
    aria-label="What was done about it"
    class="repair"
    :failure="visit.failure.value"
    elsewhere
    @submit="keep"
  >
    <div class="field wide">
      <span class="label">What was done</span>
      <div class="chips" role="group" aria-label="What was done">
        <button
          v-for="r in check.repairs"
          :key="r.repair"
          type="button"
          class="btn"
          :class="{ go: draft.repair === r.repair }"
          :aria-pressed="draft.repair === r.repair"
          @click="draft.repair = r.repair"
        >
          {{ r.said }}
        </button>
      </div>
      <span class="fault">{{ fault('repair') || fault('found') }}</span>
    </div>
    <div v-if="!nothing" class="field wide">
      <span class="label">Left</span>
      <div class="chips" role="group" aria-label="How it was left">
        <button
          v-for="l in LEFT"
          :key="l.left"
          type="button"
          class="btn"
          :class="{ go: draft.left === l.left }"
          :aria-pressed="draft.left === l.left"
          @click="draft.left = l.left"
        >
          {{ l.said }}
        </button>
      </div>
      <span class="fault">{{ fault('left') }}</span>
    </div>
    <template v-if="chosen?.torque">
      <TextField
        v-model="draft.torque"
        class="short"
        figure
        label="Torque set"
        :hint="check.torque_asked ? `the model asks for ${check.torque_asked}` : ''"
        :error="fault('torque')"
      />
      <ChoiceField
        v-model="draft.unit"
        class="short"
        label="The wrench shows"
        :options="[
          { value: 'newton_metre', label: 'N·m' },
          { value: 'pound_foot', label: 'lbf·ft' },
        ]"
      />
    </template>
    <TextField
      v-if="chosen?.cleans"
      v-model="draft.agent"
      class="grow2"
      label="Cleaned with"
      hint="bicarbonate, plain water, a vacuum"
      :maxlength="120"
      :error="fault('agent')"
    />
    <TextField
      v-if="chosen?.joint"
      v-model="draft.coating"
      class="grow2"
      label="Coated with"
      hint="empty: nothing was put on"
      :maxlength="120"
      :error="fault('coating')"
    />
    <CheckField v-if="chosen?.joint" v-model="draft.lock_nuts" label="Lock nuts put on" />
    <TextField
      v-if="!nothing"
      v-model="draft.part"
      class="grow2"
      label="Part used"
      hint="new lug, new cap"
      :maxlength="200"
      :error="fault('part')"
    />
    <TextField
      v-model="draft.note"
      class="grow2"
      :label="nothing ? 'Why it was left' : 'In your words'"
      :maxlength="400"
      :error="fault('note')"
    />
    <p class="press">
      <button type="submit" class="btn go" :disabled="visit.saving.value">Keep what was done</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.repair {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  padding: 10px 0 6px;
  align-items: flex-start;
}
.wide {
  flex: 1 1 100%;
}
.short {
  flex: 0 1 150px;
}
.grow2 {
  flex: 1 1 220px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.press {
  display: flex;
  gap: 8px;
  flex: 1 1 100%;
}
</style>
