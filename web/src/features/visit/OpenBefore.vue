<script setup lang="ts">
import type { Schemas } from '@/api/client';
import RepairForm from './RepairForm.vue';
import RepairLines from './RepairLines.vue';
import type { Visit } from './useVisit';
import { ref } from 'vue';

/** Something an earlier visit found and did not put right, with what this visit does about it. */
defineProps<{
  check: Schemas['CheckView'];
  before: Schemas['OpenBefore'];
  visit: Visit;
}>();
const repairing = ref(false);
</script>

<template>
  <li class="before">
    <div class="grow">
      <p class="small said">still open: {{ before.place_said }}, {{ before.said }}</p>
      <RepairLines
        :repairs="before.repairs"
        :visit="visit"
        :about="`${check.said} ${before.place_said}, from before`"
      />
      <RepairForm
        v-if="repairing"
        :check="check"
        :found="before.kind"
        :place="before.place"
        :visit="visit"
        @close="repairing = false"
      />
    </div>
    <button
      v-if="visit.open.value"
      type="button"
      class="btn sm"
      :aria-expanded="repairing"
      :aria-label="`${check.said} ${before.place_said}, from before: what was done`"
      @click="repairing = !repairing"
    >
      What was done
    </button>
  </li>
</template>

<style scoped>
.before {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  padding: 4px 0;
}
.said {
  color: var(--watch-text);
}
@media (max-width: 720px) {
  .before {
    flex-wrap: wrap;
  }
  .grow {
    flex: 1 1 100%;
  }
}
</style>
