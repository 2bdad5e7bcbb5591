<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextArea from '@/components/form/TextArea.vue';
import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { computed, reactive, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** What is known. */
  notes: Schemas['AccessNotes'];
  /** Who wrote it. */
  by: string;
  /** Version of the bank. */
  version: number;
  /** What stands there that has to be known, line by line. */
  standsThere: string[];
  /** How the cables go, in order. */
  hookUp: string[];
  /** The technician's own numbers. */
  ownNumbers: string[];
}>();
const emit = defineEmits<{ changed: [] }>();
const FIELDS = [
  ['cover', 'Cover', 'how it comes off, which way it faces'],
  ['wrenches', 'Wrenches', '13 mm posts, 10 mm cover'],
  ['awkward', 'Awkward cells', 'A1-1 needs a mirror, B8 a filler jug'],
  ['switch', 'Switch', 'where the disconnect is'],
  ['wished', 'Wish I had known', 'for the next visitor'],
] as const;
const known = computed(() => FIELDS.filter(([key]) => props.notes[key]));
const editing = ref(false);
const draft = reactive<Record<string, string>>({});
const failure = shallowRef<Failure | null>(null);

function edit(): void {
  for (const [key] of FIELDS) draft[key] = props.notes[key] ?? '';
  editing.value = true;
}
async function save(): Promise<void> {
  failure.value = null;
  try {
    await need(
      api.PUT('/api/banks/{id}/access', {
        params: { path: { id: props.bank }, header: seen(props.version) },
        body: { notes: { ...draft } as Schemas['AccessNotes'] },
      }),
    );
    editing.value = false;
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <section class="access" aria-label="Access notes">
    <h2>Before you stand there</h2>
    <ul v-if="standsThere.length" class="stands">
      <li v-for="line in standsThere" :key="line">{{ line }}</li>
    </ul>
    <details v-if="hookUp.length || ownNumbers.length">
      <summary>Own numbers and cables</summary>
      <p v-if="ownNumbers.length">{{ ownNumbers.join(', ') }}</p>
      <ol v-if="hookUp.length">
        <li v-for="line in hookUp" :key="line">{{ line }}</li>
      </ol>
    </details>
    <template v-if="!editing">
      <dl v-if="known.length">
        <template v-for="[key, name] in known" :key="key">
          <dt>{{ name }}</dt>
          <dd>{{ notes[key] }}</dd>
        </template>
      </dl>
      <p v-else class="dim">Nobody has left a note yet. What did you wish you had known?</p>
      <p class="press">
        <button type="button" class="btn sm" @click="edit">
          {{ known.length ? 'Change' : 'Leave a note' }}<span class="visually-hidden"> on access</span>
        </button>
        <span v-if="by" class="small dim">last by {{ by }}</span>
      </p>
    </template>
    <FormFrame v-else :failure="failure" @submit="save">
      <TextArea
        v-for="[key, name, hint] in FIELDS"
        :key="key"
        v-model="draft[key]"
        :rows="2"
        :placeholder="hint"
        :label="name"
        :error="failure?.fields[key] ?? failure?.fields[`notes.${key}`]"
      />
      <p class="press">
        <button type="submit" class="btn sm go">Keep the notes</button>
        <button type="button" class="btn sm" @click="editing = false">Cancel</button>
      </p>
    </FormFrame>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  margin-top: 6px;
}
.stands li {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
details {
  margin-top: 8px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
ol {
  padding-left: 20px;
  list-style: decimal;
}
dt {
  font: var(--t-label);
  color: var(--ink-3);
  margin-top: 6px;
}
.field {
  margin-top: 8px;
}
.press {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 10px;
}
</style>
