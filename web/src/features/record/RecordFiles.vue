<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { shallowRef } from 'vue';

defineProps<{
  /** Files that were read, the last first. */
  files: Schemas['RecordFile'][];
  /** Nothing of an archived bank changes. */
  closed?: boolean;
}>();
const emit = defineEmits<{ changed: [] }>();
const failure = shallowRef<Failure | null>(null);
async function act(own: Schemas['RecordFile']): Promise<void> {
  const params = { path: { id: own.id } };
  try {
    await need(
      own.withdrawn
        ? api.POST('/api/records/{id}/put-back', { params })
        : api.DELETE('/api/records/{id}', { params }),
    );
    failure.value = null;
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <section v-if="files.length" class="files" aria-label="Files that were read">
    <h2>Files that were read</h2>
    <FailureNote :failure="failure" />
    <ul>
      <li v-for="f in files" :key="f.id" :class="{ out: f.withdrawn }">
        <div>
          <p>
            <b>{{ f.file || 'a file without a name' }}</b> <span class="dim">{{ f.read }}</span>
            <template v-if="f.withdrawn"> taken out: it counts for nothing</template>
          </p>
          <p>{{ f.said }}</p>
          <p v-for="line in f.lines" :key="line" class="small">{{ line }}</p>
        </div>
        <button v-if="!closed" type="button" class="btn sm" @click="act(f)">
          {{ f.withdrawn ? 'Put it back' : 'Take it out' }}
          <span class="visually-hidden">{{ f.file }}</span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.files {
  margin-top: 16px;
}
li {
  display: flex;
  gap: 16px;
  align-items: start;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.out {
  color: var(--ink-3);
}
</style>
