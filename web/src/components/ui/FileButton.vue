<script setup lang="ts">
withDefaults(
  defineProps<{
    /** Kinds of file that are offered. */
    accept: string;
    /** Small, as beside a field. */
    small?: boolean;
  }>(),
  { small: false },
);
const emit = defineEmits<{ chosen: [file: File] }>();

/** Hands the file on; the same one may be chosen again after it was mended. */
function take(event: Event): void {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file) emit('chosen', file);
  input.value = '';
}
</script>

<template>
  <label class="btn" :class="{ sm: small }"
    ><input class="visually-hidden" type="file" :accept="accept" @change="take" /><slot
  /></label>
</template>

<style scoped>
label:focus-within {
  outline: 2px solid var(--action);
  outline-offset: 2px;
}
</style>
