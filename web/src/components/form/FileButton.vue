<script setup lang="ts">
withDefaults(
  defineProps<{
    /** Kinds of file that are offered. */
    accept: string;
    /** Small, as beside a field. */
    small?: boolean;
    /** Several at once. */
    multiple?: boolean;
  }>(),
  { small: false, multiple: false },
);
const emit = defineEmits<{ chosen: [file: File] }>();

/** Hands the file on; the application sends it, and the same one may be chosen again. */
function take(file: File): false {
  emit('chosen', file);
  return false;
}
</script>

<template>
  <a-upload
    class="file"
    :accept="accept"
    :multiple="multiple"
    :show-upload-list="false"
    :before-upload="take"
    v-bind="$attrs"
  >
    <span class="btn" :class="{ sm: small }"><slot /></span>
  </a-upload>
</template>

<style scoped>
.file :deep([role='button']:focus-visible) {
  outline: 2px solid var(--action);
  outline-offset: 2px;
  display: inline-block;
}
</style>
