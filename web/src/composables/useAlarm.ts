import { allowSound, sound, soundAllowed } from './alarm';
import { onUnmounted, ref, watch, type Ref } from 'vue';

/** What sounds, and what the window is called meanwhile. */
interface Alarming {
  alarm?: string | null;
  title: string;
}

/** An alarm sounds again after so many milliseconds, for as long as it stands. */
const AGAIN = 15000;

/** Says by sound and by the window's title what the room must hear. */
export function useAlarm(page: Readonly<Ref<Alarming | null>>) {
  const on = ref(soundAllowed());
  const before = document.title;
  let timer = 0;
  function allow(): void {
    allowSound();
    on.value = true;
    if (page.value?.alarm) sound(page.value.alarm);
  }
  watch(
    () => page.value?.title,
    (title) => {
      if (title) document.title = `${page.value?.alarm ? '● ' : ''}${title}`;
    },
  );
  watch(
    () => page.value?.alarm,
    (alarm) => {
      window.clearInterval(timer);
      if (!alarm) return;
      sound(alarm);
      timer = window.setInterval(() => sound(alarm), AGAIN);
    },
    { immediate: true },
  );
  onUnmounted(() => {
    window.clearInterval(timer);
    document.title = before;
  });
  return { on, allow };
}
