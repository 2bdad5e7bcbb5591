<script setup lang="ts">
import type { Schemas } from '@/api/client';
import LensPlan, { type LensKind } from '@/components/plan/LensPlan.vue';
import PlanView from '@/components/plan/PlanView.vue';
import StringSwitch from '@/components/plan/StringSwitch.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { usePhone } from '@/composables/usePhone';
import { COUNTED } from '@/logic/glyphs';
import { planCells } from '@/logic/planCells';
import { computed } from 'vue';
import { useLens } from './useLens';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
const selected = defineModel<string | null>('selected', { required: true });
/** A phone shows one string at a time. */
const string = defineModel<number>('string', { required: true });
const phone = usePhone();
const { lenses, kind, lens } = useLens(() => props.page);
const cells = computed(() => planCells(props.page.cells));
const counts = computed(() =>
  COUNTED.map((c) => ({ c, n: [...cells.value.values()].filter((v) => v.condition === c).length })).filter(
    (x) => x.n,
  ),
);
const strings = computed(() => new Set(props.page.plan.rows.map((r) => r.string)).size);
const planHeight = computed(() => {
  const rows = props.page.plan.rows.length;
  if (phone.value) return 60 + 190 * Math.ceil((rows / (strings.value || 1)) * 2.2);
  return rows > 2 ? 500 : rows > 1 ? 400 : 210;
});
const pick = (cell: string): void => {
  selected.value = selected.value === cell ? null : cell;
};
</script>

<template>
  <div class="bar">
    <a-segmented
      v-if="lenses.length > 1"
      v-model:value="kind"
      class="lenses"
      aria-label="Lens"
      :options="lenses.map((l) => ({ value: l.kind, payload: l.name }))"
    >
      <template #label="{ value, payload }"
        ><kbd>{{ lenses.findIndex((l) => l.kind === value) + 1 }}</kbd> {{ payload }}</template
      >
    </a-segmented>
    <StringSwitch v-if="phone" v-model="string" :plan="page.plan" />
    <span v-if="lens?.kind === 'gravity' && page.round" class="small dim"
      >points from the median, {{ page.corrected }}; figures are 1.xxx</span
    >
    <span v-else-if="lens?.lens" class="small dim">{{ lens.lens.caption }}</span>
  </div>
  <PlanView
    v-if="!lens || lens.kind === 'gravity'"
    :plan="page.plan"
    :cells="cells"
    :selected="selected"
    :height="planHeight"
    :most="phone ? 12 : 99"
    :string="phone && strings > 1 ? string : null"
    :median="page.median_figure ?? null"
    :band="page.median_figure ? page.steady_points : null"
    :label="`Plan of the bank from above, ${page.description}`"
    @pick="pick"
  />
  <template v-else>
    <LensPlan
      :plan="page.plan"
      :kind="lens.kind as LensKind"
      :lens="lens.lens"
      :selected="selected"
      :height="planHeight"
      :most="phone ? 12 : 99"
      :string="phone && strings > 1 ? string : null"
      :label="`${lens.name} from above, ${page.description}`"
      @pick="pick"
    />
    <p v-if="!lens.lens" class="dim">Nothing is noted for this lens yet; a visit fills it.</p>
  </template>
  <p v-if="page.round && lens?.kind === 'gravity'" class="key">
    <ConditionMark v-for="x in counts" :key="x.c" :condition="x.c" :count="x.n" word />
    <span class="small dim">shaded: within {{ page.steady_points.toFixed(0) }} points, steady</span>
  </p>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  justify-content: space-between;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 10px 0 2px;
}
.lenses {
  max-width: 100%;
  overflow-x: auto;
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 0 48px;
  align-items: center;
}
@media (max-width: 720px) {
  .lenses kbd {
    display: none;
  }
  .key {
    margin-left: 0;
  }
}
</style>
