<script setup lang="ts">
import EquipmentAsked from '@/features/equipment/EquipmentAsked.vue';
import PlanChoices from './PlanChoices.vue';
import RunPlan from './RunPlan.vue';
import SetpointSide from './SetpointSide.vue';
import WhyEqualize from './WhyEqualize.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { ref } from 'vue';
import { useEqualizePlan } from './useEqualizePlan';

const props = defineProps<{ id: string }>();
const prepare = useEqualizePlan(props.id);
const { page, missing, failure, asked, plan, fault } = prepare;
const telling = ref(false);
function told(): void {
  telling.value = false;
  void plan();
}
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="plan" />
  <LoadingLines v-else-if="!page" />
  <div v-else class="equalize">
    <WhereLine
      :place="page.site"
      :parts="[page.name, 'equalize', page.description, page.round_day && `round of ${page.round_day}`]"
    >
      <button type="button" class="btn sm" :aria-expanded="telling" @click="telling = !telling">
        Charger and loads
      </button>
      <RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink>
    </WhereLine>
    <h1><CellWords :text="page.verdict" /></h1>
    <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
    <EquipmentAsked v-if="telling" :bank="id" @saved="told" @close="telling = false" />
    <div class="cols">
      <WhyEqualize class="why" :page="page" />
      <section v-if="!page.locked" class="plan" aria-label="Plan of the run">
        <PlanChoices
          v-model:kind="asked.kind"
          v-model:temperature="asked.temperature.typed"
          v-model:pilot="asked.pilot"
          :page="page"
          :unit="asked.temperature.unit"
          :fault="fault('temperature')"
          @change="plan"
        />
        <p v-if="page.refused" class="refused" role="alert">
          <ConditionMark condition="act" :size="20" />{{ page.refused }}
        </p>
        <RunPlan v-if="page.plan" :plan="page.plan" />
      </section>
      <SetpointSide v-if="page.plan" class="side" :page="page" :plan="page.plan" :prepare="prepare" />
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 240px;
  gap: 0 24px;
  margin-top: 12px;
}
.plan {
  border-left: 1px solid var(--line);
  padding-left: 22px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 18px;
}
.refused {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  color: var(--act-text);
  font-weight: 600;
  margin: 14px 0;
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: minmax(0, 1fr) 240px;
  }
  .why {
    grid-column: 1 / -1;
    margin-bottom: 16px;
  }
  .plan {
    border-left: 0;
    padding-left: 0;
  }
}
@media (max-width: 720px) {
  .cols {
    display: flex;
    flex-direction: column;
  }
  .plan {
    order: -1;
  }
  .side {
    border-left: 0;
    padding-left: 0;
    margin-top: 14px;
  }
  .why {
    order: 1;
    margin-top: 18px;
  }
}
</style>
