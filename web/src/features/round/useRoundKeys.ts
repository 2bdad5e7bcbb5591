import type { useRound } from './useRound';
import { useMe } from '@/stores/me';

/** What a letter or an arrow does in a round; digits go to the figure. */
export function useRoundKeys(
  round: ReturnType<typeof useRound>,
  more: { finish: () => void; conditions: () => void; noReading: () => void },
) {
  const store = useMe();
  return (key: string): void => {
    if (key === 'ArrowRight' || key === 'ArrowDown') round.step(1);
    else if (key === 'ArrowLeft' || key === 'ArrowUp') round.step(-1);
    else if (!store.me.singleKeys) return;
    else if (key.toLowerCase() === 'k') void round.keep();
    else if (key.toLowerCase() === 'u') void round.undo();
    else if (key.toLowerCase() === 'n') more.noReading();
    else if (key.toLowerCase() === 't') more.conditions();
  };
}
