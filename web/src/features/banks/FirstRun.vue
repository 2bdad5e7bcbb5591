<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { ref, shallowRef } from 'vue';
import ImportButton from './ImportButton.vue';

const emit = defineEmits<{ loaded: [] }>();
const busy = ref(false);
const failure = shallowRef<Failure | null>(null);

async function demo(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await need(api.POST('/api/demo'));
    // Still busy: the list of what was made takes its time, and this page goes when it is there.
    emit('loaded');
  } catch (error) {
    failure.value = error as Failure;
    busy.value = false;
  }
}
</script>

<template>
  <h1>No bank yet. Describe the first one, and the plan draws itself as you type.</h1>
  <FailureNote :failure="failure" />
  <div class="ways">
    <section>
      <h2>Describe a bank</h2>
      <p>Site, battery model, how many in series and parallel, and how it stands. Two minutes.</p>
      <RouterLink class="btn go" to="/banks/new">Describe a bank</RouterLink>
    </section>
    <section>
      <h2>Bring one along</h2>
      <p>A bank exported from another Rainshadow, with its rounds, as one JSON file.</p>
      <ImportButton @imported="emit('loaded')" />
    </section>
    <section>
      <h2>Look at the demo</h2>
      <p>Six invented banks with three years of visits. They stay in this data folder only.</p>
      <button type="button" class="btn" :disabled="busy" @click="demo">
        {{ busy ? 'Making the demo' : 'Look at the demo' }}
      </button>
    </section>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  margin-top: 24px;
  border-top: 1px solid var(--line);
}
section {
  padding: 16px 24px 16px 0;
  display: grid;
  gap: 8px;
  justify-items: start;
  align-content: start;
}
section + section {
  border-left: 1px solid var(--line);
  padding-left: 24px;
}
p {
  color: var(--ink-2);
}
@media (max-width: 720px) {
  section + section {
    border-left: 0;
    padding-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
