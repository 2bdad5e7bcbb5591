<script setup lang="ts">
import { computed } from 'vue';

const props = defineProps<{
  /** A sentence that names cells. */
  text: string;
}>();
// An address is one word: "A7-2" never breaks at its hyphen.
const parts = computed(() => props.text.split(/([A-Z]\d{1,2}-\d)/));
</script>

<template>
  <template v-for="(part, i) in parts" :key="i"
    ><span v-if="i % 2" class="one">{{ part }}</span
    ><template v-else>{{ part }}</template></template
  >
</template>

<style scoped>
.one {
  white-space: nowrap;
}
</style>
