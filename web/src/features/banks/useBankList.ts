import { api, need, type Schemas } from '@/api/client';
import { useRemote } from '@/composables/useRemote';
import { computed, reactive } from 'vue';
import { findBanks, sortBanks } from './findBanks';

type Line = Schemas['BankSummary'];

/** The state of the shop's banks in one sentence. */
export function headlineOf(here: Line[]): string {
  const acting = here.filter((b) => b.condition === 'act');
  if (!here.length) return 'Every bank is archived.';
  if (acting.length === 1) return `One bank asks for action: ${acting[0]!.site}.`;
  if (acting.length) return `${acting.length} banks ask for action.`;
  const watched = here.filter((b) => b.condition === 'watch').length;
  if (watched === 1) return 'One bank to watch, the others are steady or unread.';
  if (watched) return `${watched} banks to watch.`;
  return here.every((b) => b.condition === 'steady') ? 'Every bank is steady.' : 'No bank asks for action.';
}

/** The banks on the books, searched, narrowed and sorted. */
export function useBankList() {
  const remote = useRemote(() => need(api.GET('/api/banks')));
  const all = computed(() => remote.data.value ?? []);
  const wanted = reactive({
    typed: '',
    sort: 'condition' as 'condition' | 'name' | 'round',
    only: '' as '' | Schemas['Severity'],
    archived: false,
  });
  const here = computed(() => all.value.filter((b) => !b.archived));
  const shown = computed(() => {
    const of = all.value.filter(
      (b) => b.archived === wanted.archived && (!wanted.only || b.condition === wanted.only),
    );
    return sortBanks(findBanks(of, wanted.typed), wanted.sort);
  });
  const someArchived = computed(() => here.value.length < all.value.length);
  const headline = computed(() => headlineOf(here.value));
  return { ...remote, all, here, wanted, shown, someArchived, headline };
}
export type BankList = ReturnType<typeof useBankList>;
