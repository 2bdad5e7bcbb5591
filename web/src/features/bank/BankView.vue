<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import BankHead from './BankHead.vue';
import OwnChoices from './OwnChoices.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { useStartVisit } from '@/composables/useStartVisit';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const router = useRouter();
const {
  data: page,
  loading,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}', { params: { path: { id: props.id } } })));
const choosing = ref(false);
const acted = shallowRef<Failure | null>(null);
const canRead = computed(() => !!page.value?.has_caps && !page.value.bank.archived_at);
const { start, failure: notBegun } = useStartVisit();
const visit = (): void => void start(props.id, page.value?.open_visit);
/** A visit for one step alone. */
const short = (only: Schemas['Step']): void => void start(props.id, page.value?.open_visit, { only });
/** A visit for a job, or its job on the visit under way. */
const job = (own: Schemas['Job']): void => void start(props.id, page.value?.open_visit, { job: own });

function take(): void {
  if (canRead.value)
    void router.push(
      page.value?.open_round ? `/rounds/${page.value.open_round}` : `/banks/${props.id}/round`,
    );
}
function judged(): void {
  choosing.value = false;
  void load();
}
useShortcuts({
  r: take,
  v: visit,
  e: () => {
    const p = page.value;
    if (p?.equalizes && !p.bank.archived_at)
      void router.push(p.open_run ? `/runs/${p.open_run}` : `/banks/${props.id}/equalize`);
  },
});
</script>

<template>
  <LoadingLines v-if="loading && !page" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <template v-else-if="page">
    <BankHead
      :page="page"
      :reads="canRead"
      @changed="load"
      @failed="acted = $event"
      @choices="choosing = true"
      @round="take"
      @visit="visit"
      @short="short"
      @job="job"
    />
    <WhereLine :parts="[page.site.kind, page.description, page.round_day && `round of ${page.round_day}`]" />
    <FailureNote :failure="acted ?? notBegun" />
    <RouterView v-slot="{ Component }">
      <component :is="Component" :page="page" @changed="load" @begin="short" />
    </RouterView>
    <SideDrawer v-model:open="choosing" title="Choices of this bank’s own" :width="720">
      <OwnChoices :bank="page.bank" @close="choosing = false" @changed="judged" />
    </SideDrawer>
  </template>
</template>
