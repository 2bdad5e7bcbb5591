<script setup lang="ts">
import { api, Failure, need, type Schemas } from '@/api/client';
import { putPhoto } from '@/api/files';
import FileButton from '@/components/form/FileButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Visit } from './useVisit';
import { useFocusReturn } from '@/composables/useFocusReturn';
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
const failure = shallowRef<Failure | null>(null);
const waiting = shallowRef<File[]>([]);
const shown = shallowRef<Schemas['PhotoView'] | null>(null);
useFocusReturn(computed(() => !!shown.value));
const mine = (p: Schemas['PhotoView']): boolean =>
  p.what === props.what &&
  (props.what !== 'finding' || (p.subject === props.subject && p.place === props.place));
const now = computed(() => (props.visit.page.value?.photos ?? []).filter(mine));
const before = computed(() => (props.visit.page.value?.photos_before ?? []).filter(mine));

/** Photographs go one after the other; what cannot be taken is said by its name, and the rest go on. */
async function take(file: File): Promise<void> {
  waiting.value = [...waiting.value, file];
  if (waiting.value.length > 1) return;
  const several = (): boolean => waiting.value.length > 1;
  failure.value = null;
  for (let next = waiting.value[0]; next; next = waiting.value[0]) {
    const file = next;
    try {
      await need(
        putPhoto(props.visit.id, uuidv7(), file, {
          what: props.what,
          subject: props.subject,
          place: props.place,
        }),
      );
    } catch (error) {
      const name: string = several() || failure.value ? `${file.name}: ` : '';
      const why = error as Failure;
      failure.value = new Failure(`${name}${why.message}`, why.status);
      if (why.status === 409 || why.status === 0) waiting.value = [];
    }
    waiting.value = waiting.value.slice(1);
  }
  await props.visit.load();
}
async function remove(photo: Schemas['PhotoView']): Promise<void> {
  try {
    await need(
      api.DELETE('/api/photos/{id}', {
        params: { path: { id: photo.id } },
      }),
    );
    shown.value = null;
    await props.visit.load();
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
      :disabled="waiting.length > 0"
      @chosen="take"
      >{{ waiting.length ? `Sending, ${waiting.length} to go` : press }}</FileButton
    >
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
