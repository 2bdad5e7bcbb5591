import type { Schemas } from '@/api/client';

type Bank = Schemas['BankSummary'];

/** Banks that answer to a site, a name, a duty, or an address of one of their cells. */
export function findBanks(banks: Bank[], typed: string): { bank: Bank; cell: string | null }[] {
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  return banks.flatMap((bank) => {
    const text = `${bank.site} ${bank.name} ${bank.duty} ${bank.site_kind} ${bank.description}`.toLowerCase();
    let cell: string | null = null;
    const hit = words.every((word) => {
      if (text.includes(word)) return true;
      const found = bank.cells.find(
        (c) => c.toLowerCase() === word || c.toLowerCase().startsWith(`${word}-`),
      );
      cell ??= found ?? null;
      return found !== undefined;
    });
    return hit ? [{ bank, cell }] : [];
  });
}

const WORST: Record<Schemas['Severity'], number> = { act: 0, watch: 1, reread: 2, no_reading: 3, steady: 4 };

/** Banks by what asks for attention, by name, or by the oldest round. */
export function sortBanks<T extends { bank: Bank }>(banks: T[], by: 'condition' | 'name' | 'round'): T[] {
  const name = (b: Bank) => `${b.site} ${b.name}`;
  const order = {
    condition: (a: Bank, b: Bank) =>
      WORST[a.condition] - WORST[b.condition] || name(a).localeCompare(name(b)),
    name: (a: Bank, b: Bank) => name(a).localeCompare(name(b)),
    round: (a: Bank, b: Bank) => (a.last_date ?? '').localeCompare(b.last_date ?? ''),
  }[by];
  return [...banks].sort((a, b) => order(a.bank, b.bank));
}
