import { shallowRef } from 'vue';

/** What was done, and how it is taken back. */
export interface Offer {
  /** Tells one offer from the next. */
  nth: number;
  /** What was done, in a sentence. */
  said: string;
  /** Takes it back. */
  undo: () => Promise<unknown>;
}

/** What can be taken back now; shown over whichever page stands. */
export const offered = shallowRef<Offer | null>(null);

/** Says what was done, and offers to take it back. */
export function useUndo() {
  const offer = (said: string, undo: Offer['undo']): void => {
    offered.value = { nth: (offered.value?.nth ?? 0) + 1, said, undo };
  };
  return { offer };
}
