import type { Failure } from '@/api/client';
import { ref, shallowRef } from 'vue';

/** Something the server knows: its data, whether it is on its way, and why it is not there. */
export function useRemote<T>(fetcher: () => Promise<T>) {
  const data = shallowRef<T | null>(null);
  const loading = ref(true);
  const failure = shallowRef<Failure | null>(null);

  // A late answer never replaces that of a later question.
  let asked = 0;

  async function load(): Promise<void> {
    const mine = ++asked;
    loading.value = true;
    failure.value = null;
    try {
      const answer = await fetcher();
      if (mine === asked) data.value = answer;
    } catch (error) {
      if (mine === asked) failure.value = error as Failure;
    } finally {
      if (mine === asked) loading.value = false;
    }
  }
  void load();
  return { data, loading, failure, load };
}
