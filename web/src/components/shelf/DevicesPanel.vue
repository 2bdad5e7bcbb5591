<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { computed, ref, shallowRef } from 'vue';

const { data, loading, failure, load } = useRemote(() => need(api.GET('/api/devices')));
const code = shallowRef<Schemas['PairingCode'] | null>(null);
const acted = shallowRef<Failure | null>(null);
const limited = ref(false);
const spaced = computed(() => code.value?.code.replace(/(....)(....)/, '$1 $2') ?? '');
// The server draws it; as an image it can hold nothing that runs.
const qr = computed(() => (code.value ? `data:image/svg+xml;utf8,${encodeURIComponent(code.value.qr)}` : ''));

async function open(): Promise<void> {
  acted.value = null;
  try {
    const query = { scope: limited.value ? ('visits' as const) : ('all' as const) };
    code.value = await need(api.POST('/api/devices/code', { params: { query } }));
  } catch (error) {
    acted.value = error as Failure;
  }
}
async function revoke(id: string): Promise<void> {
  acted.value = null;
  try {
    await need(api.POST('/api/devices/{id}/revoke', { params: { path: { id } } }));
    await load();
  } catch (error) {
    acted.value = error as Failure;
  }
}
const day = (at: string): string => at.slice(0, 16).replace('T', ' ');
</script>

<template>
  <LoadingLines v-if="loading && !data" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <template v-else-if="data">
    <FailureNote :failure="acted" />
    <template v-if="data.open">
      <p class="small">
        Reached as {{ data.hosts.join(', ') }}. A phone is let in by a code that is good once and for ten
        minutes.
      </p>
      <label class="check"
        ><input v-model="limited" type="checkbox" data-scope @change="code = null" /> for visits alone: no
        files in or out, no archiving, no rules</label
      >
      <p>
        <button type="button" class="btn go" @click="open">{{ code ? 'A new code' : 'Pair a phone' }}</button>
      </p>
      <div v-if="code" class="code">
        <img :src="qr" alt="Code to scan with the phone" width="220" height="220" />
        <div>
          <p>Scan it, or open</p>
          <p class="fig">{{ code.address }}</p>
          <p>and type</p>
          <p class="big fig">{{ spaced }}</p>
        </div>
      </div>
    </template>
    <p v-else class="small">
      This server is reached from this machine only. Started with <span class="fig">--listen</span> and
      <span class="fig">--host</span>, or behind a proxy with <span class="fig">--public-url</span>, it lets
      phones in that are paired here.
    </p>
    <table v-if="data.devices.length" class="plain">
      <thead>
        <tr>
          <th>Device</th>
          <th>May</th>
          <th>Paired</th>
          <th>Seen</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in data.devices" :key="d.id">
          <td>{{ d.name }}</td>
          <td>{{ d.scope === 'visits' ? 'visits alone' : 'everything' }}</td>
          <td class="fig">{{ day(d.paired_at) }}</td>
          <td class="fig">{{ day(d.seen_at) }}</td>
          <td>
            <span v-if="d.revoked_at" class="dim">shut out {{ day(d.revoked_at) }}</span>
            <span v-else-if="d.lapsed" class="dim">not seen for 90 days: pair it again</span>
            <button v-else type="button" class="btn sm" @click="revoke(d.id)">
              Shut out <span class="visually-hidden">{{ d.name }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </template>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: center;
  margin: 12px 0;
}
.code img {
  background: #fff;
  padding: 8px;
}
.big {
  font-size: 40px;
  line-height: 48px;
}
</style>
