<script setup lang="ts">
import { Failure } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import RailNav from '@/components/ui/RailNav.vue';
import { usePhone } from '@/composables/usePhone';
import { broken } from '@/composables/useBroken';
import { offered } from '@/composables/useUndo';
import { useShortcuts } from '@/composables/useShortcuts';
import { useMe } from '@/stores/me';
import { antTheme } from '@/theme/tokens';
import { computed, defineAsyncComponent, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';

const UndoMessage = defineAsyncComponent(() => import('@/components/ui/UndoMessage.vue'));
const KeysHelp = defineAsyncComponent(() => import('@/components/ui/KeysHelp.vue'));
const store = useMe();
const phone = usePhone();
const route = useRoute();
const keys = ref(false);
useShortcuts({ '?': () => (keys.value = true) }, true);
/** A page that could not be fetched: the press must not just do nothing. */
const lost = shallowRef<Failure | null>(null);
const router = useRouter();
router.onError(() => {
  lost.value = new Failure('The server does not answer. This page stays; try again once it runs.', 0);
});
router.afterEach(() => {
  broken.value = '';
  lost.value = null;
});
/** What a page is of: the tabs of one bank are one page. */
const place = computed(() => `${route.matched[0]?.path} ${Object.values(route.params).join(' ')}`);
const reload = (): void => window.location.reload();
const theme = computed(() => antTheme(store.dim, phone.value));
// In a round on a phone the bar folds away, so that a glove cannot leave by accident.
const bare = computed(() => phone.value && route.meta.bare === true);
</script>

<template>
  <a-config-provider :theme="theme">
    <div class="frame" :class="{ bare }">
      <RailNav v-if="!bare" @keys="keys = true" />
      <main class="page">
        <FailureNote :failure="lost" />
        <div v-if="broken" class="broken" role="alert">
          <p>
            Part of this page failed: {{ broken }}. What is stored is safe, and what is half typed waits here.
          </p>
          <button type="button" class="btn sm" @click="reload">Load the page anew</button>
        </div>
        <RouterView :key="place" />
      </main>
      <KeysHelp v-if="keys" v-model:open="keys" />
      <UndoMessage v-if="offered" :key="offered.nth" :offer="offered" />
    </div>
  </a-config-provider>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: var(--rail) minmax(0, 1fr);
  min-height: 100%;
}
.frame > :deep(.rail) {
  position: sticky;
  top: 0;
  height: 100vh;
}
.page {
  padding: 18px 24px 16px 28px;
  min-width: 0;
  max-width: 1500px;
  width: 100%;
}
.broken {
  display: flex;
  gap: 14px;
  align-items: center;
  border-left: 6px solid var(--act);
  background: var(--act-tint);
  padding: 8px 14px;
  margin-bottom: 10px;
}
@media (max-width: 720px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: 1fr auto;
    min-height: 100dvh;
  }
  .frame > :deep(.rail) {
    grid-row: 2;
    position: sticky;
    top: auto;
    bottom: 0;
    height: 68px;
    z-index: 5;
  }
  .page {
    padding: 12px 16px 20px;
  }
  .frame.bare {
    display: block;
  }
  .frame.bare .page {
    padding: 0;
  }
}
</style>
