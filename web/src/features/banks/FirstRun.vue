<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import picture from '../../../../docs/screenshots/bank.png';
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
  <figure>
    <figcaption>What a bank’s page shows, here of a demo bank</figcaption>
    <img
      :src="picture"
      width="1280"
      height="800"
      alt="The plan of a bank from above with a figure on every cell, one of them far below the others; over it one sentence on what to do, beside it what was found, with rule and limit"
    />
    <p class="small">
      One sentence on what to do; every cell where it stands, off the median by how many points; what was
      found, with its rule and limit; what is due, and how the years went.
    </p>
  </figure>
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
figure {
  margin: 26px 0 0;
  border-top: 1px solid var(--line);
  padding-top: 16px;
  max-width: 900px;
}
figcaption {
  font: 600 14px/20px var(--text);
  margin-bottom: 8px;
}
img {
  width: 100%;
  height: auto;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  margin-bottom: 6px;
}
@media (max-width: 720px) {
  section + section {
    border-left: 0;
    padding-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
