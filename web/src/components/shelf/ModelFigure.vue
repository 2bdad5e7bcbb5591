<script setup lang="ts">
defineProps<{
  /** Id of the field. */
  id: string;
  /** What is asked, with its unit. */
  label: string;
  /** Words instead of a figure. */
  words?: boolean;
  /** What may stand there. */
  hint?: string;
  /** Why it was refused; empty while it was not. */
  fault: string;
}>();
const typed = defineModel<string | null | undefined>({ required: true });
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <input
      :id="id"
      v-model="typed"
      class="text"
      :class="{ mono: !words }"
      :inputmode="words ? 'text' : 'decimal'"
      autocomplete="off"
      :aria-invalid="!!fault"
      :aria-describedby="`${id}-said`"
    />
    <span :id="`${id}-said`" :class="fault ? 'fault' : 'hint'">{{ fault || hint }}</span>
  </div>
</template>
