import type { Schemas } from '@/api/client';
import type { LensKind } from '@/components/plan/LensPlan.vue';
import { useShortcuts } from '@/composables/useShortcuts';
import { computed, ref } from 'vue';

interface Shown {
  kind: 'gravity' | LensKind;
  name: string;
  lens: Schemas['Lens'] | null;
}

/** What the plan of a bank can show, and which of it does; a sealed bank has its rest volts alone. */
export function useLens(page: () => Schemas['BankPage']) {
  const lenses = computed<Shown[]>(() => {
    const l = page().lenses;
    const rest = { kind: 'rest' as const, name: 'Rest volts', lens: l.rest_volts ?? null };
    if (!page().has_caps) return [rest];
    return [
      { kind: 'gravity', name: 'Gravity', lens: null },
      { kind: 'level', name: 'Level', lens: l.level ?? null },
      rest,
      { kind: 'water', name: 'Water use', lens: l.water_use ?? null },
      { kind: 'change', name: 'Change since last', lens: l.change ?? null },
    ];
  });
  const kind = ref<Shown['kind']>(lenses.value[0]!.kind);
  const lens = computed(() => lenses.value.find((l) => l.kind === kind.value) ?? lenses.value[0]!);
  const turn = (nth: number) => () => {
    kind.value = lenses.value[nth]?.kind ?? kind.value;
  };
  useShortcuts(Object.fromEntries([0, 1, 2, 3, 4].map((n) => [String(n + 1), turn(n)])));
  return { lenses, kind, lens };
}
