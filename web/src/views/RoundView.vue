<script setup lang="ts">
import RoundClosing from '@/components/round/RoundClosing.vue';
import RoundDesk from '@/components/round/RoundDesk.vue';
import RoundPhone from '@/components/round/RoundPhone.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { usePhone } from '@/composables/usePhone';
import { useRound } from '@/composables/useRound';
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';

const ConditionsDrawer = defineAsyncComponent(() => import('@/components/round/ConditionsDrawer.vue'));
const props = defineProps<{ id: string }>();
const router = useRouter();
const phone = usePhone();
const round = useRound(props.id);
const editing = ref(false);
const { page, missing } = round;

async function finish(): Promise<void> {
  if (await round.finish()) await router.push(`/banks/${round.page.value!.bank}`);
}
const leave = (): void => void router.push(`/banks/${round.page.value?.bank ?? ''}`);
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
