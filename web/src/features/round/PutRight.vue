<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { useRound } from './useRound';
import { computed } from 'vue';

const props = defineProps<{
  /** The cell of a finished round. */
  cell: string;
  /** The round. */
  round: ReturnType<typeof useRound>;
}>();
const { page, typed, preview, failure, saving } = props.round;
const record = computed(() => page.value?.cells.find((c) => c.view.cell === props.cell) ?? null);
props.round.goTo(props.cell);

async function save(): Promise<void> {
  await props.round.enter();
  props.round.goTo(props.cell);
}
async function keep(): Promise<void> {
  await props.round.keep();
  props.round.goTo(props.cell);
}
</script>

<template>
  <FormFrame class="right" :failure="null" elsewhere @submit="save">
    <p v-if="record?.question" class="small">{{ record.question }}</p>
    <TextField v-model="typed" :maxlength="8" :label="`Another figure for ${cell}, as read`" figure />
    <button type="submit" class="btn" :disabled="saving || !typed.trim()">Put it right</button>
    <button
      v-if="record?.question && record.entry"
      type="button"
      class="btn"
      :disabled="saving"
      @click="keep"
    >
      Keep {{ record.entry.says }}
    </button>
    <p id="right-said" class="said" :class="{ fault: preview?.error }" role="status">
      {{
        preview?.error ??
        (typed && preview?.corrected
          ? `${preview.corrected} corrected, ${preview.deviation ?? '0'} from the median. The figure before stays on record.`
          : '')
      }}
    </p>
    <FailureNote v-if="failure && !preview?.error" :failure="failure" />
  </FormFrame>
</template>

<style scoped>
.right {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  margin-top: 10px;
}
.right > .small {
  width: 100%;
}
.field {
  width: 220px;
}
.said {
  width: 100%;
  min-height: 17px;
  font: var(--t-small);
  color: var(--ink-2);
}
.said.fault {
  color: var(--act-text);
}
</style>
