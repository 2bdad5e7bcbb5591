<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import ConditionsForm from './ConditionsForm.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useConditions } from './useConditions';
import { useRemote } from '@/composables/useRemote';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const router = useRouter();
const store = useMe();
const {
  data: page,
  loading,
  failure: missing,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}', { params: { path: { id: props.id } } })));
const batteries = computed(() =>
  (page.value?.plan.rows ?? [])
    .flatMap((r) => r.batteries.map((b) => b.address))
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true })),
);
const conditions = useConditions(() => batteries.value);
const route = useRoute();
// What the visit knows already is not asked twice.
const visit = route.query.visit as string | undefined;
if (visit)
  void need(api.GET('/api/visits/{id}', { params: { path: { id: visit } } }))
    .then((known) => conditions.fromVisit(known))
    .catch(() => undefined);
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
let round = uuidv7();

async function open(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await store.save();
    await need(
      api.PUT('/api/rounds/{id}', { params: { path: { id: round } }, body: conditions.body(props.id) }),
    );
    await router.replace(`/rounds/${round}`);
  } catch (error) {
    failure.value = error as Failure;
    // A round stored under this id with other answers is another round.
    if (failure.value.status === 409) round = uuidv7();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <LoadingLines v-if="loading" />
  <FailureNote v-else-if="missing" :failure="missing" again @again="load" />
  <template v-else-if="page">
    <WhereLine :place="page.site.name" :parts="[page.bank.name, page.description, 'take a round']">
      <RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink>
    </WhereLine>
    <h1>Before the first cell: what will these readings be worth?</h1>
    <ConditionsForm
      :conditions="conditions"
      :batteries="batteries"
      :failure="failure"
      press="Begin the round"
      :busy="busy"
      @done="open"
    />
  </template>
</template>
