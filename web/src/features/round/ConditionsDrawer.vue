<script setup lang="ts">
import ConditionsForm from './ConditionsForm.vue';
import { useConditions } from './useConditions';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import type { useRound } from './useRound';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The round. */
  round: ReturnType<typeof useRound>;
}>();
const open = defineModel<boolean>('open', { required: true });
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
  <SideDrawer v-model:open="open" title="Conditions of this round" :width="940">
    <ConditionsForm
      :conditions="conditions"
      :batteries="batteries"
      :failure="round.failure.value"
      press="Judge by these conditions"
      :busy="busy"
      @done="save"
    />
  </SideDrawer>
</template>
