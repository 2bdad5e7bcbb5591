<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { computed, ref } from 'vue';
import JointsPlan from './JointsPlan.vue';
import JointTable from './JointTable.vue';
import ShareOptions from './ShareOptions.vue';
import TorqueLog from './TorqueLog.vue';
import WiringForm from './WiringForm.vue';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
const emit = defineEmits<{ changed: []; begin: [only: Schemas['Step']] }>();
const id = computed(() => props.page.bank.id);
const {
  data: own,
  loading,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}/joints', { params: { path: { id: id.value } } })));
/** The cables with their drops, for those who cannot see the drawing. */
const cables = computed(() => {
  const of = (pole: string, all: Schemas['CableLine'][]): string[] =>
    all.map((c) => `${pole} ${c.said}, ${c.amperes.toFixed(1)} A, ${c.millivolts} mV`);
  const all = [...of('plus', own.value?.positive ?? []), ...of('minus', own.value?.negative ?? [])];
  if (!all.length) return '';
  // Those that are alike and carry the same are told once.
  return `${own.value?.busbars ? 'Leads to the busbars' : 'From string to string'}: ${[...new Set(all)].join('; ')}.`;
});
const open = computed(() => !props.page.bank.archived_at);
const describing = ref(false);
function described(): void {
  describing.value = false;
  void load();
  emit('changed');
}
const measure = (): void => {
  if (open.value) emit('begin', 'joints');
};
useShortcuts({ j: measure });
</script>

<template>
  <LoadingLines v-if="loading && !own" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <div v-else-if="own" class="cols" :class="{ alone: !own.options.length }">
    <section class="main">
      <h1>{{ own.verdict }}</h1>
      <p class="evidence">
        <span>{{ own.amperes_said }}</span>
        <span v-for="e in own.evidence" :key="e">{{ e }}</span>
      </p>
      <p v-if="open" class="do">
        <button type="button" class="btn go" @click="measure">Joint round <kbd>J</kbd></button>
        <button type="button" class="btn" @click="describing = true">
          {{ own.link || own.positive.length ? 'Change how it is wired' : 'Tell how it is wired' }}
        </button>
      </p>
      <JointsPlan :view="own" />
      <p v-if="!own.wired" class="small">
        How the strings come together is not told, so their currents are not known: tell the cables once, or
        clamp every string on a visit.
      </p>
      <p v-if="own.link || cables" class="small dim">
        <template v-if="own.link">Links from battery to battery: {{ own.link }}. </template>{{ cables }}
      </p>
      <JointTable :view="own" />
      <p v-if="own.known.length" class="small dim">{{ own.known.join('; ') }}.</p>
      <p class="small dim">{{ own.rule }}</p>
    </section>
    <aside class="side">
      <ShareOptions v-if="own.options.length" :view="own" />
      <TorqueLog :lines="own.torque" :due="own.torque_due" :asked="own.torque_asked" />
    </aside>
    <SideDrawer v-model:open="describing" title="How it is wired" :width="620">
      <WiringForm
        :bank="id"
        :rule="own.cable_rule"
        :strings="own.strings.map((s) => s.letter)"
        @close="describing = false"
        @saved="described"
      />
    </SideDrawer>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 310px;
  gap: 0 22px;
  margin-top: 2px;
}
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin: 4px 0 8px;
  color: var(--ink-2);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 6px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 20px;
  display: grid;
  gap: 18px;
  align-content: start;
}
@media (max-width: 980px) {
  .cols {
    display: block;
  }
  .side {
    border-left: 0;
    padding: 14px 0 0;
  }
}
@media (max-width: 720px) {
  .do .btn {
    flex: 1;
    height: 48px;
  }
}
</style>
