<script setup lang="ts">
import { useFocusReturn } from '@/composables/useFocusReturn';
import { usePhone } from '@/composables/usePhone';

/** A sheet over the page: from the side on the desk, from below on the phone. */
const props = defineProps<{
  /** What it is. */
  title: string;
  /** Pixels on the desk. */
  width: number;
  /** A question asked in passing: on the phone only as high as what is in it. */
  short?: boolean;
}>();
const open = defineModel<boolean>('open', { required: true });
useFocusReturn(open);
const phone = usePhone();
</script>

<template>
  <a-drawer
    v-model:open="open"
    :title="title"
    :placement="phone && props.short ? 'bottom' : 'right'"
    :width="phone ? '100%' : `min(${width}px, 100vw)`"
    :height="phone && props.short ? 'auto' : undefined"
    destroy-on-close
  >
    <!-- The library's drawer does not say what it is. -->
    <div role="dialog" aria-modal="true" :aria-label="title"><slot /></div>
  </a-drawer>
</template>
