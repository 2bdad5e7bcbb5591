import '@fontsource/atkinson-hyperlegible-mono/latin-500.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-600.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-700.css';
import '@fontsource/atkinson-hyperlegible-next/latin-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-500.css';
import '@fontsource/atkinson-hyperlegible-next/latin-600.css';
import '@/theme/tokens.css';
import '@/theme/base.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { broken } from '@/composables/useBroken';
import { router } from './router';
import { useMe } from '@/stores/me';
import { wearColours } from '@/theme/tokens';

wearColours();
const app = createApp(App).use(createPinia());
function tell(error: unknown): void {
  console.error(error);
  broken.value = error instanceof Error ? error.message : String(error);
}
app.config.errorHandler = tell;
// Timers and promises fail outside of Vue; a box that could not settle its size in one frame has not failed.
window.addEventListener('error', (event) => {
  if (event.error) tell(event.error);
});
// What the browser itself withholds, a wake lock or a sound, is no failure of the page.
window.addEventListener('unhandledrejection', (event) => {
  if (!(event.reason instanceof DOMException)) tell(event.reason);
});
// The first page is already said in the person's units.
void useMe()
  .introduce()
  .then(() => app.use(router).mount('#app'));
