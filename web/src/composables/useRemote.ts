import type { Failure } from '@/api/client';
import { ref, shallowRef } from 'vue';

/** Something the server knows: its data, whether it is on its way, and why it is not there. */
export function useRemote<T>(fetcher: () => Promise<T>) {
  const data = shallowRef<T | null>(null);
  const loading = ref(true);
  const failure = shallowRef<Failure | null>(null);

  async function load(): Promise<void> {
    loading.value = true;
    failure.value = null;
    try {
      data.value = await fetcher();
    } catch (error) {
      failure.value = error as Failure;
    } finally {
      loading.value = false;
    }
  }
  void load();
  return { data, loading, failure, load };
}
