<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { useMe } from '@/stores/me';
import { shallowRef } from 'vue';

const store = useMe();
const path = { params: { path: { id: store.me.id } } };
const { data, loading, failure, load } = useRemote(() => need(api.GET('/api/people/{id}/calendar', path)));
const made = shallowRef<Schemas['CalendarFeed'] | null>(null);
const acted = shallowRef<Failure | null>(null);

async function act(work: () => Promise<Schemas['CalendarFeed'] | null>): Promise<void> {
  acted.value = null;
  try {
    made.value = await work();
    await load();
  } catch (error) {
    acted.value = error as Failure;
  }
}
async function open(): Promise<void> {
  // Whose feed it is must be known before it can be made.
  await act(() => store.save().then(() => need(api.POST('/api/people/{id}/calendar', path))));
}
async function close(): Promise<void> {
  await act(() => need(api.DELETE('/api/people/{id}/calendar', path)).then(() => null));
}
</script>

<template>
  <p class="small">
    A calendar program sends no password: its address holds a key of its own. Whoever has the address reads
    what is due, and nothing else.
  </p>
  <LoadingLines v-if="loading && !data" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <template v-else-if="data">
    <FailureNote :failure="acted" />
    <p v-if="made?.address" class="made" role="status">
      Subscribe to this address; it is shown once:<br /><span class="fig address">{{ made.address }}</span>
    </p>
    <p v-else-if="data.since" class="small">
      Your feed is open since <span class="fig">{{ data.since.slice(0, 10) }}</span>.
    </p>
    <p class="press">
      <button type="button" class="btn" @click="open">
        {{ data.since ? 'A new address' : 'Make an address' }}
      </button>
      <button v-if="data.since" type="button" class="btn" @click="close">End the feed</button>
    </p>
  </template>
</template>

<style scoped>
.press {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
.address {
  overflow-wrap: anywhere;
}
.made {
  margin-top: 8px;
}
</style>
