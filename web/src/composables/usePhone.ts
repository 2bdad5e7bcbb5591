import { onScopeDispose, ref } from 'vue';

/** True on a screen as narrow as a phone's. */
export function usePhone() {
  const query = matchMedia('(max-width: 720px)');
  const phone = ref(query.matches);
  const follow = (): void => {
    phone.value = query.matches;
  };
  query.addEventListener('change', follow);
  onScopeDispose(() => query.removeEventListener('change', follow));
  return phone;
}
