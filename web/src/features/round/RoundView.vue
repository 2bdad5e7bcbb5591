<script setup lang="ts">
import RoundClosing from './RoundClosing.vue';
import RoundDesk from './RoundDesk.vue';
import RoundPhone from './RoundPhone.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { usePhone } from '@/composables/usePhone';
import { useRound } from './useRound';
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';

const ConditionsDrawer = defineAsyncComponent(() => import('./ConditionsDrawer.vue'));
const props = defineProps<{ id: string }>();
const router = useRouter();
const phone = usePhone();
const round = useRound(props.id);
const editing = ref(false);
const { page, missing } = round;

async function finish(): Promise<void> {
  if (await round.finish()) leave();
}
const leave = (): void => {
  const { bank = '', visit } = round.page.value ?? {};
  // Back to the path of the visit it belongs to.
  void router.push(visit ? `/visits/${visit}?step=round` : `/banks/${bank}`);
};
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="round.load()" />
  <LoadingLines v-else-if="!page" />
  <RoundClosing v-else-if="page.finished" :page="page" :round="round" @conditions="editing = true" />
  <component
    :is="phone ? RoundPhone : RoundDesk"
    v-else
    :round="round"
    @finish="finish"
    @leave="leave"
    @conditions="editing = true"
  />
  <ConditionsDrawer v-if="editing && page" v-model:open="editing" :round="round" />
  <p class="visually-hidden" role="status" aria-live="polite">{{ round.said.value }}</p>
</template>
