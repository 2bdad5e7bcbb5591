<script setup lang="ts">
import { api, Failure, need, type Schemas } from '@/api/client';
import { putPhoto } from '@/api/files';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Visit } from '@/composables/useVisit';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, shallowRef } from 'vue';

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
const sending = ref(0);
const shown = shallowRef<Schemas['PhotoView'] | null>(null);
const mine = (p: Schemas['PhotoView']): boolean =>
  p.what === props.what &&
  (props.what !== 'finding' || (p.subject === props.subject && p.place === props.place));
const now = computed(() => (props.visit.page.value?.photos ?? []).filter(mine));
const before = computed(() => (props.visit.page.value?.photos_before ?? []).filter(mine));

async function send(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  failure.value = null;
  for (const [i, file] of files.entries()) {
    sending.value = files.length - i;
    try {
      await need(
        putPhoto(props.visit.id, uuidv7(), file, {
          what: props.what,
          subject: props.subject,
          place: props.place,
        }),
      );
    } catch (error) {
      const name = files.length > 1 ? `${file.name}: ` : '';
      const why = error as Failure;
      failure.value = new Failure(`${name}${why.message}`, why.status);
      if (why.status === 409 || why.status === 0) break;
    }
  }
  sending.value = 0;
  input.value = '';
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
    <label v-if="visit.open.value" class="btn sm take" :class="{ busy: sending }">
      {{ sending ? `Sending, ${sending} to go` : press }}
      <!-- JPEG is asked for, so that phones convert what they store otherwise. -->
      <input
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        :disabled="sending > 0"
        @change="send"
      />
    </label>
    <div v-if="shown" class="large" role="dialog" aria-label="Photograph" @keydown.esc="shown = null">
      <img :src="`/api/photos/${shown.id}`" :alt="`${shown.place_said}, ${shown.by}`" />
      <p>
        {{ shown.place_said }}, {{ shown.by }}
        <button type="button" class="btn sm" @click="shown = null">Close</button>
        <button
          v-if="visit.open.value && now.includes(shown)"
          type="button"
          class="btn sm"
          @click="remove(shown)"
        >
          Take it out
        </button>
      </p>
    </div>
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
  position: relative;
  margin-top: 8px;
  overflow: hidden;
}
.take input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
  font-size: 100px;
}
.take:focus-within {
  outline: 2px solid var(--action);
  outline-offset: 2px;
}
.busy {
  color: var(--ink-3);
}
.large {
  margin-top: 10px;
}
.large img {
  max-width: 100%;
  max-height: 70vh;
  border: 1px solid var(--line-strong);
}
.large p {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 6px;
}
</style>
