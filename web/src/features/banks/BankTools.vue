<script setup lang="ts">
import TextField from '@/components/form/TextField.vue';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import { usePhone } from '@/composables/usePhone';
import { useShortcuts } from '@/composables/useShortcuts';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import BankFilters from './BankFilters.vue';
import type { Archiving } from './useArchiving';
import type { BankList } from './useBankList';

const props = defineProps<{
  /** The list that is searched. */
  list: BankList;
  /** What several banks are picked for. */
  several: Archiving;
}>();
const router = useRouter();
const { wanted } = props.list;
const phone = usePhone();
const narrowing = ref(false);
/** Opens what is found first, at its cell where an address was typed. */
function first(): void {
  const hit = props.list.shown.value[0];
  if (hit) void router.push({ path: `/banks/${hit.bank.id}`, query: hit.cell ? { cell: hit.cell } : {} });
}
useShortcuts({ '/': () => document.getElementById('find-bank')?.focus() });
</script>

<template>
  <div class="tools" role="search" aria-label="Find banks">
    <TextField
      id="find-bank"
      v-model="wanted.typed"
      class="find"
      label="Find a site, a bank or an address"
      type="search"
      @keydown.enter="first"
    />
    <button v-if="phone" type="button" class="btn" aria-haspopup="dialog" @click="narrowing = true">
      Narrow and sort
    </button>
    <BankFilters v-else :list="list" />
    <button
      v-if="!wanted.archived"
      type="button"
      class="btn"
      :aria-pressed="several.picking.value"
      @click="several.toggle"
    >
      {{ several.picking.value ? 'Leave the picking' : 'Pick several' }}
    </button>
  </div>
  <SideDrawer v-if="phone" v-model:open="narrowing" title="Narrow and sort" :width="380" short>
    <div class="all">
      <BankFilters :list="list" />
      <button type="button" class="btn go" @click="narrowing = false">
        Show {{ list.shown.value.length === 1 ? '1 bank' : `${list.shown.value.length} banks` }}
      </button>
    </div>
  </SideDrawer>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: flex-end;
  margin: 16px 0 8px;
}
.find {
  flex: 1 1 280px;
  max-width: 420px;
}
.all {
  display: grid;
  gap: 14px;
}
</style>
