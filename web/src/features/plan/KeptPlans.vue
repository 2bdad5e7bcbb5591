<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import FileButton from '@/components/form/FileButton.vue';
import ConfirmButton from '@/components/ui/ConfirmButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import { useRemote } from '@/composables/useRemote';
import { computed, defineAsyncComponent, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** Its bank; none: banks that are not on the books. */
  bank?: string;
  /** The planner that is open: two of it are compared. */
  planner: Schemas['Planner'];
  /** Nothing is kept of an archived bank, nor thrown away. */
  closed?: boolean;
}>();
const emit = defineEmits<{
  open: [plan: Schemas['KeptPlan'], renewed: boolean];
  read: [file: Schemas['PlanFile']];
}>();
const {
  data: plans,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/plans', { params: { query: { bank: props.bank } } })));
defineExpose({ load });
const PlansCompared = defineAsyncComponent(() => import('./PlansCompared.vue'));
const acted = shallowRef<Failure | null>(null);
const ticked = ref<string[]>([]);
const comparing = ref(false);
const pair = computed(() => {
  const own = (plans.value ?? []).filter((p) => ticked.value.includes(p.id));
  return own.length === 2 && own[0]!.planner === own[1]!.planner ? own : null;
});
function tick(id: string, on: boolean): void {
  ticked.value = on ? [...ticked.value, id].slice(-2) : ticked.value.filter((own) => own !== id);
}
async function open(id: string, renewed: boolean): Promise<void> {
  try {
    emit('open', await need(api.GET('/api/plans/{id}', { params: { path: { id } } })), renewed);
    acted.value = null;
  } catch (error) {
    acted.value = error as Failure;
  }
}
async function throwAway(id: string): Promise<void> {
  try {
    await need(api.DELETE('/api/plans/{id}', { params: { path: { id } } }));
    acted.value = null;
    await load();
  } catch (error) {
    acted.value = error as Failure;
  }
}
async function take(file: File): Promise<void> {
  try {
    emit('read', await need(api.POST('/api/plans/read', { body: { csv: await file.text() } })));
    acted.value = null;
  } catch (error) {
    acted.value = error as Failure;
  }
}
</script>

<template>
  <section class="kept" aria-label="Kept plans">
    <div class="head">
      <h2>Kept plans</h2>
      <button type="button" class="btn sm" :disabled="!pair" @click="comparing = true">
        Compare the two ticked
      </button>
      <FileButton accept=".json,.csv" small @chosen="take">Read a plan from a file</FileButton>
    </div>
    <FailureNote :failure="failure ?? acted" />
    <p v-if="plans && !plans.length" class="dim">
      {{
        closed
          ? 'None is kept.'
          : 'None is kept yet. Keep one, and it is told when the bank has new readings.'
      }}
    </p>
    <ul>
      <li v-for="p in plans ?? []" :key="p.id">
        <CheckField :model-value="ticked.includes(p.id)" @update:model-value="tick(p.id, !!$event)"
          ><span class="visually-hidden">Compare {{ p.name }}</span></CheckField
        >
        <div class="own">
          <p>
            <b>{{ p.name }}</b> <span class="dim">{{ p.planner_name }}, {{ p.kept }}</span>
            <span v-if="p.visit" class="dim">, attached to a visit</span>
          </p>
          <p>{{ p.said }}</p>
          <p v-if="p.stale.length" class="stale">
            Stale: the bank has new readings. {{ p.stale.join('; ') }}.
            <button type="button" class="btn sm" @click="open(p.id, true)">Work it out anew</button>
          </p>
        </div>
        <div class="do">
          <button type="button" class="btn sm" @click="open(p.id, false)">Open</button>
          <a class="btn sm" :href="`/api/plans/${p.id}/printed`" target="_blank" rel="noopener">Print</a>
          <a class="btn sm" :href="`/api/plans/${p.id}/plan.csv`">CSV</a>
          <a class="btn sm" :href="`/api/plans/${p.id}/plan.json`">JSON</a>
          <ConfirmButton
            v-if="!closed"
            class="sm"
            :question="`Throw “${p.name}” away?`"
            ok="Throw it away"
            cancel="Keep it"
            @sure="throwAway(p.id)"
            >Throw away</ConfirmButton
          >
        </div>
      </li>
    </ul>
    <SideDrawer v-model:open="comparing" title="Two plans side by side" :width="820">
      <PlansCompared v-if="pair" :left="pair[0]!.id" :right="pair[1]!.id" />
    </SideDrawer>
  </section>
</template>

<style scoped>
.kept {
  margin-top: 20px;
  border-top: 1px solid var(--line-strong);
  padding-top: 10px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.head h2 {
  margin-right: auto;
}
li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 4px 10px;
  align-items: start;
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: flex-end;
}
.stale {
  margin-top: 4px;
  padding-left: 10px;
  border-left: 3px solid var(--watch);
}
@media (max-width: 900px) {
  li {
    grid-template-columns: 24px minmax(0, 1fr);
  }
  .do {
    grid-column: 2;
    justify-content: flex-start;
  }
}
</style>
