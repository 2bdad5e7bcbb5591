<script setup lang="ts">
import type { Schemas } from '@/api/client';
import PlanView from '@/components/plan/PlanView.vue';
import { usePhone } from '@/composables/usePhone';

defineProps<{
  /** The bank as drawn; none while the numbers do not fit. */
  plan: Schemas['DraftPlan'] | null;
}>();
const phone = usePhone();
</script>

<template>
  <div class="picture">
    <PlanView
      v-if="plan"
      :plan="plan.plan"
      :pressable="false"
      :height="phone ? 320 : plan.plan.rows.length > 2 ? 560 : 380"
      :most="phone ? 12 : 99"
      :label="`Plan of the bank as described: ${plan.description}`"
    />
    <p v-else class="dim">The plan draws itself when the numbers fit.</p>
    <p v-if="plan" class="small">
      {{ plan.cells }} cells. Cell 1 of each battery is next to its positive post; the address A3-2 is string
      A, battery 3, cell 2.
    </p>
  </div>
</template>

<style scoped>
.picture {
  position: sticky;
  top: 18px;
  align-self: start;
  min-width: 0;
}
@media (max-width: 980px) {
  .picture {
    order: -1;
    position: static;
  }
}
</style>
