<script setup lang="ts">
import { api, type Failure, need, type Schemas } from '@/api/client';
import { putPhoto } from '@/api/files';
import FileButton from '@/components/form/FileButton.vue';
import CountProgress from '@/components/ui/CountProgress.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Visit } from './useVisit';
import { useFileQueue } from '@/composables/useFileQueue';
import { useFocusReturn } from '@/composables/useFocusReturn';
import { useUndo } from '@/composables/useUndo';
import { v7 as uuidv7 } from 'uuid';
import { computed, shallowRef } from 'vue';

const props = withDefaults(
  defineProps<{
    /** The visit. */
    visit: Visit;
    /** What the photographs show. */
    what: Schemas['PhotoOf'];
    /** The check they belong to. */
    subject?: string;
    /** Where. */
    place?: string;
    /** What the button says. */
    press: string;
  }>(),
  { subject: '', place: '' },
);
const shown = shallowRef<Schemas['PhotoView'] | null>(null);
useFocusReturn(computed(() => !!shown.value));
const mine = (p: Schemas['PhotoView']): boolean =>
  p.what === props.what &&
  (props.what !== 'finding' || (p.subject === props.subject && p.place === props.place));
const now = computed(() => (props.visit.page.value?.photos ?? []).filter(mine));
const before = computed(() => (props.visit.page.value?.photos_before ?? []).filter(mine));

const { take, failure, gone, total, busy } = useFileQueue(async (file) => {
  const { what, subject, place } = props;
  await need(putPhoto(props.visit.id, uuidv7(), file, { what, subject, place }));
  await props.visit.load();
});
const undo = useUndo();
async function remove(photo: Schemas['PhotoView']): Promise<void> {
  try {
    await need(
      api.DELETE('/api/photos/{id}', {
        params: { path: { id: photo.id } },
      }),
    );
    shown.value = null;
    await props.visit.load();
    undo.offer('The photograph is taken out.', async () => {
      await need(api.POST('/api/photos/{id}/restore', { params: { path: { id: photo.id } } }));
      await props.visit.load();
    });
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <div class="photos">
    <div class="row">
      <figure v-for="p in now" :key="p.id">
        <button
          type="button"
          class="shot"
          :aria-label="`Photograph of ${p.place_said}, ${p.by}`"
          @click="shown = p"
        >
          <img :src="`/api/photos/${p.id}?small=true`" :alt="`${p.place_said}, ${p.by}`" />
        </button>
        <figcaption class="small">{{ p.place_said }}, {{ p.by }}</figcaption>
      </figure>
      <figure v-for="p in before" :key="p.id" class="before">
        <button
          type="button"
          class="shot"
          :aria-label="`Last time: ${p.place_said}, ${p.by}`"
          @click="shown = p"
        >
          <img :src="`/api/photos/${p.id}?small=true`" :alt="`Last time: ${p.place_said}, ${p.by}`" />
        </button>
        <figcaption class="small dim">last time, {{ p.by }}</figcaption>
      </figure>
    </div>
    <FailureNote :failure="failure" />
    <!-- JPEG is asked for, so that phones convert what they store otherwise. -->
    <FileButton
      v-if="visit.open.value"
      class="take"
      small
      multiple
      accept="image/jpeg,image/png,image/webp"
      :disabled="busy"
      @chosen="take"
      >{{ press }}</FileButton
    >
    <CountProgress v-if="busy" what="Sending" :done="gone" :of="total" />
    <a-modal
      :open="!!shown"
      :title="shown ? `${shown.place_said}, ${shown.by}` : ''"
      :footer="null"
      width="min(900px, 94vw)"
      @cancel="shown = null"
    >
      <template v-if="shown">
        <img class="large" :src="`/api/photos/${shown.id}`" :alt="`${shown.place_said}, ${shown.by}`" />
        <p v-if="visit.open.value && now.includes(shown)">
          <button type="button" class="btn sm" @click="remove(shown)">Take it out</button>
        </p>
      </template>
    </a-modal>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
figure {
  width: 150px;
}
.shot {
  padding: 0;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: var(--sunk);
  cursor: pointer;
  display: block;
  width: 150px;
  height: 112px;
  overflow: hidden;
}
.shot img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.before .shot {
  border-style: dashed;
}
.take {
  margin-top: 8px;
}
.large {
  max-width: 100%;
  max-height: 70vh;
  border: 1px solid var(--line-strong);
}
</style>
