import { api, need, type Schemas } from '@/api/client';
import { computed, shallowRef } from 'vue';

/** The battery models as they are chosen from; the one that stands there until they are read. */
export function useModels(first: string) {
  const models = shallowRef<Schemas['ModelView'][]>([]);
  void need(api.GET('/api/models'))
    .then((all) => (models.value = all))
    .catch(() => undefined);
  const options = computed(() =>
    models.value.length
      ? models.value.map((m) => ({ value: m.id, label: m.model.name }))
      : [{ value: first, label: first }],
  );
  return { models, options };
}
