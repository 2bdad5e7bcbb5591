<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import PlaceGrid from './PlaceGrid.vue';
import type { Visit } from './useVisit';
import { reactive } from 'vue';

/** What was found at a check: where, what, how bad. */
const props = defineProps<{
  check: Schemas['CheckView'];
  visit: Visit;
  plan: Schemas['Plan'];
}>();
const emit = defineEmits<{ close: [] }>();
const draft = reactive({
  place: '',
  kind: props.check.kinds[0]?.key ?? '',
  severity: '' as '' | 'watch' | 'act',
  note: '',
  measured: '',
});
const fault = (field: string): string => props.visit.fault(field, 'checked');

async function keep(): Promise<void> {
  const stored = await props.visit.say(
    {
      kind: 'checked',
      check: props.check.check,
      found: { kind: draft.kind, severity: draft.severity || null, note: draft.note },
      measured: draft.measured || null,
    },
    draft.place,
  );
  if (stored === null) emit('close');
}
</script>

<template>
  <FormFrame aria-label="What was found" class="note" :failure="visit.failure.value" elsewhere @submit="keep">
    <div class="field wide">
      <span class="label">Where</span>
      <PlaceGrid v-model="draft.place" :plan="plan" />
      <span class="fault">{{ fault('place') }}</span>
    </div>
    <div class="field wide">
      <span class="label">What</span>
      <div class="chips" role="group" aria-label="What was found">
        <button
          v-for="k in check.kinds"
          :key="k.key"
          type="button"
          class="btn"
          :class="{ go: draft.kind === k.key }"
          :aria-pressed="draft.kind === k.key"
          @click="draft.kind = k.key"
        >
          {{ k.said }}
        </button>
      </div>
    </div>
    <ChoiceField
      v-model="draft.severity"
      label="How bad"
      :options="[
        { value: '', label: `as usual: ${check.kinds.find((k) => k.key === draft.kind)?.severity}` },
        { value: 'watch', label: 'watch' },
        { value: 'act', label: 'act' },
      ]"
    />
    <TextField
      v-if="check.measures"
      v-model="draft.measured"
      :label="`Measured ${check.measures}`"
      figure
      :error="fault('measured')"
    />
    <TextField v-model="draft.note" class="grow2" label="In your words" :error="fault('found.note')" />
    <p class="press">
      <button type="submit" class="btn go" :disabled="visit.saving.value">Keep the finding</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.note {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  padding: 10px 0 6px;
  align-items: flex-end;
}
.wide {
  flex: 1 1 100%;
}
.grow2 {
  flex: 1 1 240px;
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
