<script setup lang="ts">
import SideDrawer from '@/components/ui/SideDrawer.vue';
import type { Schemas } from '@/api/client';
import { ref } from 'vue';
import TodayFilter from './TodayFilter.vue';

defineProps<{
  /** What can be chosen among. */
  page: Schemas['TodayPage'];
  /** How many filters narrow. */
  narrowed: number;
}>();
const keeper = defineModel<string>('keeper', { required: true });
const region = defineModel<string>('region', { required: true });
const duty = defineModel<string>('duty', { required: true });
const open = ref(false);
</script>

<template>
  <button type="button" class="btn sm" aria-haspopup="dialog" :aria-expanded="open" @click="open = true">
    Which banks<template v-if="narrowed">, narrowed by {{ narrowed }}</template>
  </button>
  <SideDrawer v-model:open="open" title="Which banks" :width="380" short>
    <div class="all">
      <TodayFilter v-model:keeper="keeper" v-model:region="region" v-model:duty="duty" :page="page" />
      <button type="button" class="btn go" @click="open = false">Show them</button>
    </div>
  </SideDrawer>
</template>

<style scoped>
.all {
  display: grid;
  gap: 14px;
}
</style>
