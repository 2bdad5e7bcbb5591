import type { Schemas } from '@/api/client';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Visit } from './useVisit';

/** Which step of a visit is shown; its address holds it, so that a reload goes on there. */
export function useSteps({ page, failure }: Visit) {
  const route = useRoute();
  const router = useRouter();
  const step = ref<Schemas['Step']>((route.query.step as Schemas['Step'] | undefined) ?? 'make_safe');
  // Taken up where it was left: at the first step that is neither done nor left out.
  watch(page, (now, before) => {
    if (!now || before || now.steps.some((s) => s.step === route.query.step)) return;
    step.value = (now.steps.find((s) => !s.state) ?? now.steps[now.steps.length - 1])!.step;
  });
  watch(step, (to) => {
    failure.value = null;
    void router.replace({ query: { ...route.query, step: to } });
  });
  // A list of the visit leads to the step where its line is done.
  watch(
    () => route.query.step,
    (to) => {
      const own = page.value?.steps.find((s) => s.step === to);
      if (own) step.value = own.step;
    },
  );
  const view = computed(() => page.value?.steps.find((s) => s.step === step.value) ?? null);
  const next = computed(() => {
    const steps = page.value?.steps ?? [];
    return steps[steps.findIndex((s) => s.step === step.value) + 1] ?? null;
  });
  function on(): void {
    if (next.value) step.value = next.value.step;
    window.scrollTo(0, 0);
  }
  return { step, view, next, on };
}
