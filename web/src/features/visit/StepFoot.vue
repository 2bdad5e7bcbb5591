<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import { ref } from 'vue';

const props = defineProps<{
  /** The step. */
  step: Schemas['StepView'];
  /** The visit. */
  visit: Visit;
  /** Name of the step after it; null for the last. */
  next: string | null;
  /** True when nothing asks for this step today. */
  unasked?: boolean;
}>();
const emit = defineEmits<{ next: [] }>();
const leaving = ref(false);
const reason = ref('');

function unwanted(): void {
  reason.value = 'not wanted today';
  void say('skipped');
}
async function say(state: 'done' | 'skipped' | 'open'): Promise<void> {
  const stored = await props.visit.say({ kind: 'step', step: props.step.step, state, reason: reason.value });
  if (stored !== null) return;
  leaving.value = false;
  reason.value = '';
  if (state !== 'open' && props.next) emit('next');
}
</script>

<template>
  <div class="foot">
    <template v-if="step.state">
      <p>
        {{ step.state === 'done' ? 'Done.' : `Left out: ${step.reason}.` }}
      </p>
      <button v-if="visit.open.value" type="button" class="btn" @click="say('open')">Take it up again</button>
      <button v-if="next" type="button" class="btn go" @click="$emit('next')">{{ next }}</button>
    </template>
    <FormFrame
      v-else-if="leaving"
      class="why"
      :failure="visit.failure.value"
      elsewhere
      @submit="say('skipped')"
    >
      <TextField
        v-model="reason"
        :maxlength="200"
        :label="`Why ${step.name} is left out`"
        :error="visit.failure.value?.fields.reason"
      />
      <button type="submit" class="btn go">Leave it out</button>
      <button type="button" class="btn" @click="leaving = false">Back</button>
    </FormFrame>
    <template v-else-if="visit.open.value && unasked">
      <button type="button" class="btn go" :disabled="visit.saving.value" @click="unwanted">
        {{ next ? `Not wanted today, on to ${next}` : 'Not wanted today' }}
      </button>
    </template>
    <template v-else-if="visit.open.value">
      <button type="button" class="btn" @click="leaving = true">Leave this step out</button>
      <button type="button" class="btn go" :disabled="visit.saving.value" @click="say('done')">
        {{ next ? `Done, on to ${next}` : 'Done' }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  justify-content: flex-end;
  border-top: 1px solid var(--line);
  margin-top: 20px;
  padding-top: 12px;
}
.foot > p {
  margin-right: auto;
  color: var(--ink-2);
}
.why {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: flex-end;
  width: 100%;
}
.why .field {
  flex: 1 1 260px;
}
@media (max-width: 720px) {
  .foot > .btn {
    flex: 1 1 100%;
  }
}
</style>
