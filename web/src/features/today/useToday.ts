import { api, need, type Schemas } from '@/api/client';
import { useRemote } from '@/composables/useRemote';
import { computed, reactive, ref, watch } from 'vue';

const GROUPS: [Schemas['Consequence'], string][] = [
  ['harm', 'Harm if left'],
  ['loss', 'Loss if put off'],
  ['routine', 'On schedule'],
];
/** Lines of a page of the list. */
export const PAGE = 60;

/** What is due, narrowed to some banks, and what the van is loaded for. */
export function useToday() {
  const filter = reactive({ keeper: '', region: '', duty: '', from: 0 });
  /** Banks loaded for; null: what is due in three days. */
  const load = ref<string[] | null>(null);
  const remote = useRemote(() =>
    need(
      api.GET('/api/today', {
        params: { query: { ...filter, load: load.value === null ? undefined : load.value.join(',') } },
      }),
    ),
  );
  const page = remote.data;
  const groups = computed(() =>
    GROUPS.map(([key, name]) => ({
      name,
      items: (page.value?.items ?? []).filter((i) => i.consequence === key),
    })).filter((g) => g.items.length),
  );
  /** There is something to narrow by. */
  const several = computed(() => {
    const { keepers = [], regions = [], duties = [] } = page.value ?? {};
    return [keepers, regions, duties].some((all) => all.length > 1);
  });
  /** How many of the filters narrow. */
  const narrowed = computed(() => [filter.keeper, filter.region, filter.duty].filter(Boolean).length);
  watch(
    () => [filter.keeper, filter.region, filter.duty],
    () => {
      filter.from = 0;
      load.value = null;
      void remote.load();
    },
  );
  /** Loads the van for a bank, or no longer. */
  function choose(bank: string): void {
    const now = load.value ?? (page.value?.van.trips ?? []).filter((t) => t.chosen).map((t) => t.bank);
    load.value = now.includes(bank) ? now.filter((b) => b !== bank) : [...now, bank];
    void remote.load();
  }
  function turn(by: number): void {
    filter.from = Math.max(0, filter.from + by);
    void remote.load();
  }
  return { ...remote, page, filter, groups, several, narrowed, choose, turn };
}
