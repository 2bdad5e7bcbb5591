<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
import ConfirmButton from '@/components/ui/ConfirmButton.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
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
type Device = Schemas['Device'];
const may = (d: Device): string => (d.scope === 'visits' ? 'visits alone' : 'everything');
const columns: Column<Device>[] = [
  { key: 'name', title: 'Device', said: (d) => d.name, sort: (d) => d.name },
  { key: 'may', title: 'May', said: may, sort: may, narrow: may },
  { key: 'paired', title: 'Paired', figure: true, said: (d) => day(d.paired_at), sort: (d) => d.paired_at },
  { key: 'seen', title: 'Seen', figure: true, said: (d) => day(d.seen_at), sort: (d) => d.seen_at },
  { key: 'act', title: 'Shut out', quiet: true },
];
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
      <CheckField
        v-model="limited"
        data-scope
        label="for visits alone: no files in or out, no archiving, no rules"
        @change="code = null"
      />
      <p>
        <button type="button" class="btn go" @click="open">{{ code ? 'A new code' : 'Pair a phone' }}</button>
      </p>
      <div v-if="code" class="code">
        <img :src="qr" alt="Code to scan with the phone" width="220" height="220" />
        <div>
          <p>Scan it, or open</p>
          <p class="fig">{{ code.address }}</p>
          <p>and type</p>
          <p class="big fig" role="group" aria-label="Code to type">{{ spaced }}</p>
        </div>
      </div>
    </template>
    <p v-else class="small">
      This server is reached from this machine only. Started with <span class="fig">--listen</span> and
      <span class="fig">--host</span>, or behind a proxy with <span class="fig">--public-url</span>, it lets
      phones in that are paired here.
    </p>
    <DataTable
      :id="(d) => d.id"
      label="Devices"
      :columns="columns"
      :rows="data.devices"
      empty="No other device is paired."
    >
      <template #act="{ row }">
        <span v-if="row.revoked_at" class="dim">shut out {{ day(row.revoked_at) }}</span>
        <span v-else-if="row.lapsed" class="dim">not seen for 90 days: pair it again</span>
        <ConfirmButton
          v-else
          class="sm"
          :question="`Shut out ${row.name}? It must be paired anew to come back.`"
          ok="Shut it out"
          cancel="Leave it"
          @sure="revoke(row.id)"
        >
          Shut out <span class="visually-hidden">{{ row.name }}</span>
        </ConfirmButton>
      </template>
    </DataTable>
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
