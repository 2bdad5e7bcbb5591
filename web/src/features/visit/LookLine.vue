<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import PhotoStrip from './PhotoStrip.vue';
import RepairForm from './RepairForm.vue';
import RepairLines from './RepairLines.vue';
import type { Visit } from './useVisit';
import { ref } from 'vue';

/** One look: fine, or what was found, what was done about it and how it was left. */
defineProps<{
  check: Schemas['CheckView'];
  look: Schemas['CheckedView'];
  visit: Visit;
  /** Something was found at this check too. */
  beside: boolean;
  /** Photographs of the whole check at this place stand here. */
  pictured: boolean;
}>();
const repairing = ref(false);
</script>

<template>
  <li class="look">
    <template v-if="look.found">
      <ConditionMark :condition="look.left === 'put_right' ? 'steady' : look.severity" />
      <div class="grow">
        <p>
          <b>{{ look.place_said }}</b>, {{ look.found
          }}<template v-if="look.note">: {{ look.note }}</template> {{ ' '
          }}<span class="small dim">{{ look.by }}</span>
        </p>
        <RepairLines
          :repairs="look.repairs"
          :visit="visit"
          :about="`${check.said} ${look.place_said}, ${look.found}`"
        />
        <p v-if="look.advice" class="small">
          <b>{{ look.advice }}</b>
        </p>
        <p v-else-if="!look.repairs.length" class="small">Looked at again: {{ look.left_said }}.</p>
        <PhotoStrip
          :visit="visit"
          what="finding"
          :subject="`${check.check} ${look.kind ?? ''}`"
          :shared="pictured"
          :place="look.place"
          press="Photograph it"
        />
        <RepairForm
          v-if="repairing"
          :check="check"
          :found="look.kind ?? ''"
          :place="look.place"
          :visit="visit"
          @close="repairing = false"
        />
      </div>
      <div v-if="visit.open.value" class="acts">
        <button
          type="button"
          class="btn sm"
          :aria-expanded="repairing"
          :aria-label="`${check.said} ${look.place_said}, ${look.found}: what was done`"
          @click="repairing = !repairing"
        >
          What was done
        </button>
        <button
          type="button"
          class="btn sm quiet"
          :aria-label="`${check.said} ${look.place_said}, ${look.found}: wrong entry`"
          @click="
            visit.takeBack(look.entry, `${check.said} ${look.place_said}: “${look.found}” is taken back.`)
          "
        >
          Wrong entry
        </button>
      </div>
    </template>
    <span v-else class="small dim"
      >{{ beside && !look.place ? 'everything else' : look.place_said }} fine{{
        look.note ? `, ${look.note}` : ''
      }}, {{ look.by }}</span
    >
  </li>
</template>

<style scoped>
.look {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  padding: 6px 0 2px;
}
.acts {
  flex: none;
  display: flex;
  gap: 6px;
}
@media (max-width: 720px) {
  .look {
    flex-wrap: wrap;
  }
  .grow {
    flex: 1 1 80%;
  }
  .acts {
    flex: 1 1 100%;
  }
  .acts .btn {
    flex: 1;
  }
}
</style>
