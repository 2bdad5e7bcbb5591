<script setup lang="ts">
/** A button for what cannot be undone: it asks in place before it is done. */
defineOptions({ inheritAttrs: false });

defineProps<{
  /** What is asked, with what is lost. */
  question: string;
  /** What does it, and what leaves it. */
  ok: string;
  cancel: string;
}>();
defineEmits<{ sure: [] }>();
</script>

<template>
  <a-popconfirm
    :title="question"
    :ok-text="ok"
    :cancel-text="cancel"
    placement="topRight"
    :ok-button-props="{ danger: true }"
    @confirm="$emit('sure')"
    ><template #icon />
    <button type="button" class="btn" v-bind="$attrs"><slot /></button>
  </a-popconfirm>
</template>
