<script setup lang="ts" generic="T extends string | number">
import { useId } from 'vue';
import type { Option } from './field';

defineOptions({ inheritAttrs: false });

defineProps<{
  /** What is asked for. */
  label: string;
  /** What can be chosen, all of it seen. */
  options: Option<T>[];
  /** The label is heard only. */
  quiet?: boolean;
  /** What was wrong; empty: nothing. */
  error?: string;
}>();
const chosen = defineModel<T | null | undefined>({ required: true });
const id = useId();
</script>

<template>
  <div
    v-bind="$attrs"
    class="field"
    role="radiogroup"
    :aria-labelledby="id"
    :aria-describedby="error ? `${id}-said` : undefined"
  >
    <span :id="id" class="label" :class="{ 'visually-hidden': quiet }">{{ label }}</span>
    <a-radio-group v-model:value="chosen" :name="id" :options="options" class="all" />
    <p v-if="error" :id="`${id}-said`" class="fault">{{ error }}</p>
  </div>
</template>

<style scoped>
.all {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.all :deep(.ant-radio-wrapper) {
  align-items: center;
  min-height: 28px;
  font: var(--t-body);
}
@media (max-width: 720px) {
  .all :deep(.ant-radio-wrapper) {
    min-height: 44px;
  }
}
</style>
