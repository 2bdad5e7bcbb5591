<script setup lang="ts">
import ConditionsForm from './ConditionsForm.vue';
import { useConditions } from './useConditions';
import { useFocusReturn } from '@/composables/useFocusReturn';
import type { useRound } from './useRound';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The round. */
  round: ReturnType<typeof useRound>;
}>();
const open = defineModel<boolean>('open', { required: true });
useFocusReturn(open);
const page = computed(() => props.round.page.value!);
const batteries = computed(() => page.value.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const conditions = useConditions(() => batteries.value);
if (page.value.opened) conditions.takeOver(page.value.opened);
const busy = ref(false);

async function save(): Promise<void> {
  busy.value = true;
  const done = await props.round.edit(conditions.body(page.value.bank));
  busy.value = false;
  if (done) open.value = false;
}
</script>

<template>
  <a-drawer v-model:open="open" title="Conditions of this round" width="min(940px, 100vw)">
    <div role="dialog" aria-modal="true" aria-label="Conditions of this round">
      <ConditionsForm
        :conditions="conditions"
        :batteries="batteries"
        :failure="round.failure.value"
        press="Judge by these conditions"
        :busy="busy"
        @done="save"
      />
    </div>
  </a-drawer>
</template>
