import { Failure } from '@/api/client';
import { computed, ref, shallowRef } from 'vue';

/** Files that are sent one after the other; what cannot be taken is said by its name, and the rest go on. */
export function useFileQueue(send: (file: File) => Promise<unknown>) {
  const waiting = shallowRef<File[]>([]);
  const gone = ref(0);
  const failure = shallowRef<Failure | null>(null);

  async function take(file: File): Promise<void> {
    waiting.value = [...waiting.value, file];
    if (waiting.value.length > 1) return;
    failure.value = null;
    gone.value = 0;
    for (let next = waiting.value[0]; next; next = waiting.value[0]) {
      try {
        await send(next);
      } catch (error) {
        const several = waiting.value.length > 1 || gone.value > 0;
        const why = error as Failure;
        failure.value = new Failure(several ? `${next.name}: ${why.message}` : why.message, why.status);
        // Nobody answers, or nothing more is taken: the rest would fail alike.
        if (why.status === 409 || why.status === 0) waiting.value = [];
      }
      gone.value += 1;
      waiting.value = waiting.value.slice(1);
    }
  }
  return {
    take,
    failure,
    gone,
    total: computed(() => gone.value + waiting.value.length),
    busy: computed(() => waiting.value.length > 0),
  };
}
