import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { reactive, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';

/** Plans an equalize of a bank, again with every choice, and makes a run of it. */
export function useEqualizePlan(id: string) {
  const store = useMe();
  const router = useRouter();
  const page = shallowRef<Schemas['EqualizePage'] | null>(null);
  const missing = shallowRef<Failure | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const busy = ref(false);
  const asked = reactive({
    kind: null as Schemas['RunKind'] | null,
    temperature: { typed: '', unit: store.me.temperature },
    pilot: '',
    set_to: '',
    instrument: 'hydrometer' as 'hydrometer' | 'refractometer' | 'digital',
  });
  let turn = 0;

  async function plan(): Promise<void> {
    const mine = ++turn;
    failure.value = null;
    try {
      const fresh = await need(
        api.POST('/api/banks/{id}/equalize', {
          params: { path: { id } },
          body: {
            kind: asked.kind,
            temperature: asked.temperature.typed ? asked.temperature : null,
            pilot: asked.pilot || null,
          },
        }),
      );
      if (mine !== turn) return;
      page.value = fresh;
      missing.value = null;
      asked.kind = fresh.kind;
      if (!asked.temperature.typed) asked.temperature.typed = fresh.temperature.typed;
      asked.pilot = fresh.pilot ?? '';
    } catch (error) {
      if (mine !== turn) return;
      if (page.value) failure.value = error as Failure;
      else missing.value = error as Failure;
    }
  }
  void plan();

  // Pressing again after a lost answer opens no second run.
  const run = uuidv7();
  async function open(): Promise<void> {
    busy.value = true;
    failure.value = null;
    try {
      await store.save();
      await need(
        api.PUT('/api/runs/{id}', {
          params: { path: { id: run } },
          body: {
            bank: id,
            kind: asked.kind ?? 'corrective',
            temperature: asked.temperature,
            pilot: asked.pilot || null,
            instrument: { kind: asked.instrument },
            set_to: asked.set_to,
          },
        }),
      );
      await router.push(`/runs/${run}`);
    } catch (error) {
      failure.value = error as Failure;
      // Somebody else opened one meanwhile: that one is shown.
      const there = (failure.value.theirs as { run?: string } | null)?.run;
      if (there) await router.push(`/runs/${there}`);
    } finally {
      busy.value = false;
    }
  }
  const fault = (field: string): string => failure.value?.fields[field] ?? '';
  return { page, missing, failure, busy, asked, plan, open, fault };
}
export type EqualizePlan = ReturnType<typeof useEqualizePlan>;
