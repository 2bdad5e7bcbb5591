<script setup lang="ts">
import { api, type Failure, need, type Schemas } from '@/api/client';
import { putPhoto } from '@/api/files';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import FileButton from '@/components/form/FileButton.vue';
import CountProgress from '@/components/ui/CountProgress.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Visit } from './useVisit';
import { useFileQueue } from '@/composables/useFileQueue';
import { useFocusReturn } from '@/composables/useFocusReturn';
import { useUndo } from '@/composables/useUndo';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, shallowRef } from 'vue';

const props = withDefaults(
  defineProps<{
    /** The visit. */
    visit: Visit;
    /** What the photographs show. */
    what: Schemas['PhotoOf'];
    /** The check they belong to, and what was found there: "terminals loose". */
    subject?: string;
    /** Those of the whole check stand here too. */
    shared?: boolean;
    /** Where. */
    place?: string;
    /** What the button says. */
    press: string;
  }>(),
  { subject: '', place: '', shared: false },
);
const shown = shallowRef<Schemas['PhotoView'] | null>(null);
useFocusReturn(computed(() => !!shown.value));
const about = (subject: string): boolean =>
  subject === props.subject || (props.shared && subject === props.subject.split(' ')[0]);
const mine = (p: Schemas['PhotoView']): boolean =>
  p.what === props.what && (props.what !== 'finding' || (p.place === props.place && about(p.subject)));
const now = computed(() => (props.visit.page.value?.photos ?? []).filter(mine));
const before = computed(() => (props.visit.page.value?.photos_before ?? []).filter(mine));

const { take, failure, gone, total, busy } = useFileQueue(async (file) => {
  const { what, subject, place } = props;
  await need(putPhoto(props.visit.id, uuidv7(), file, { what, subject, place }));
  await props.visit.load();
});
const caption = ref('');
const captionFailure = shallowRef<Failure | null>(null);
const captioned = (p: Schemas['PhotoView']): string => (p.note ? `${p.place_said}: ${p.note}` : p.place_said);
function show(photo: Schemas['PhotoView']): void {
  caption.value = photo.note;
  captionFailure.value = null;
  shown.value = photo;
}
async function write(photo: Schemas['PhotoView']): Promise<void> {
  try {
    await need(
      api.PUT('/api/photos/{id}/caption', {
        params: { path: { id: photo.id } },
        body: { seen: photo.note, caption: caption.value },
      }),
    );
    shown.value = null;
    await props.visit.load();
  } catch (error) {
    captionFailure.value = error as Failure;
  }
}
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
          :aria-label="`Photograph of ${captioned(p)}, ${p.by}`"
          @click="show(p)"
        >
          <img :src="`/api/photos/${p.id}?small=true`" :alt="`${p.place_said}, ${p.by}`" />
        </button>
        <figcaption class="small">{{ captioned(p) }}, {{ p.by }}</figcaption>
      </figure>
      <figure v-for="p in before" :key="p.id" class="before">
        <button
          type="button"
          class="shot"
          :aria-label="`Last time: ${p.place_said}, ${p.by}`"
          @click="show(p)"
        >
          <img :src="`/api/photos/${p.id}?small=true`" :alt="`Last time: ${p.place_said}, ${p.by}`" />
        </button>
        <figcaption class="small dim">
          last time<template v-if="p.note">: {{ p.note }}</template
          >, {{ p.by }}
        </figcaption>
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
        <img class="large" :src="`/api/photos/${shown.id}`" :alt="`${captioned(shown)}, ${shown.by}`" />
        <FormFrame
          v-if="visit.open.value && now.includes(shown)"
          class="caption"
          :failure="captionFailure"
          @submit="write(shown)"
        >
          <TextField
            v-model="caption"
            label="What it shows"
            hint="cable marks, which way it faces"
            :error="captionFailure?.fields['caption']"
          />
          <button type="submit" class="btn sm go">Keep the words</button>
        </FormFrame>
        <p v-else-if="shown.note">{{ shown.note }}</p>
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
.caption {
  display: flex;
  gap: 10px;
  align-items: flex-end;
  margin: 8px 0;
}
.large {
  max-width: 100%;
  max-height: 70vh;
  border: 1px solid var(--line-strong);
}
</style>
