<script setup lang="ts">
import StopButton from '@/components/ui/StopButton.vue';
import type { Run, RunPage } from './useRun';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
}>();
// One press, with no question asked; it can be taken back for ten seconds.
const stop = (): void => void props.run.say({ what: 'stopped' });
</script>

<template>
  <StopButton :said="page.stop_help" @stop="stop" />
</template>
