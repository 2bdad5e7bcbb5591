<script setup lang="ts">
withDefaults(
  defineProps<{
    /** Id of the input. */
    id: string;
    /** What is typed. */
    label: string;
    /** What is accepted, in few words. */
    hint?: string;
    /** What was wrong. */
    fault?: string;
    /** Text instead of a figure. */
    words?: boolean;
  }>(),
  { hint: '', fault: '', words: false },
);
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
      maxlength="120"
      :aria-invalid="!!fault"
      :aria-describedby="`${id}-said`"
    />
    <span :id="`${id}-said`" :class="fault ? 'fault' : 'hint'">{{ fault || hint }}</span>
  </div>
</template>
