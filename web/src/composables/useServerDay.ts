import { api, need } from '@/api/client';
import { ref } from 'vue';

const day = ref<string | null>(null);
let asked = false;

/** The day the server believes in, once it told: that of a demo is not the machine's. */
export function useServerDay() {
  if (!asked) {
    asked = true;
    need(api.GET('/api/meta'))
      .then((meta) => (day.value = meta.today))
      // Asked again by the next field; until then the machine's own day stands.
      .catch(() => (asked = false));
  }
  return day;
}
