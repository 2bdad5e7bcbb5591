<script setup lang="ts">
import { computed, nextTick, useTemplateRef, watch } from 'vue';

const props = defineProps<{
  /** The cell being read. */
  cell: string;
  /** What is wrong with the figure. */
  error: string | null;
  /** The stored figure that is asked about, shown until another is typed. */
  asked?: string;
  /** The keypad of the screen types instead of a keyboard. */
  keypad: boolean;
}>();
const typed = defineModel<string>({ required: true });
const emit = defineEmits<{ enter: []; key: [key: string] }>();
const input = useTemplateRef<HTMLInputElement>('input');
// Three digits stand behind "1."; anything longer is shown as typed.
const short = computed(() => /^\d{0,3}$/.test(typed.value));
const focus = (): void => input.value?.focus({ preventScroll: true });
watch(
  () => props.cell,
  () => void nextTick(focus),
  { immediate: true },
);

function pressed(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    event.preventDefault();
    emit('enter');
  } else if (/^[a-z]$/i.test(event.key) || event.key.startsWith('Arrow')) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    emit('key', event.key);
    if (event.key.startsWith('Arrow') || 'knut'.includes(event.key.toLowerCase())) event.preventDefault();
  }
}
defineExpose({ focus });
</script>

<template>
  <label class="figure" :class="{ wrong: error }">
    <span class="visually-hidden">Specific gravity of {{ cell }}</span>
    <span v-if="short" class="pre" aria-hidden="true">1.</span>
    <input
      ref="input"
      v-model="typed"
      :inputmode="keypad ? 'none' : 'decimal'"
      :placeholder="short && asked?.startsWith('1.') ? asked.slice(2) : ''"
      autocomplete="off"
      maxlength="8"
      :aria-invalid="!!error"
      aria-describedby="figure-error"
      :style="short ? '' : 'font-size:0.62em'"
      @keydown="pressed"
    />
    <slot />
  </label>
</template>

<style scoped>
.figure {
  display: flex;
  align-items: center;
  background: var(--surface);
  border: 3px solid var(--action);
  border-radius: var(--radius);
  padding: 0 18px;
  font: var(--t-entry);
  height: 106px;
}
.figure.wrong {
  border-color: var(--act);
}
.pre {
  font-weight: 500;
  color: var(--ink-3);
  letter-spacing: -6px;
  margin-right: 2px;
}
input {
  border: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  width: 100%;
  min-width: 0;
  outline: none;
  padding: 0;
  caret-color: var(--action);
}
input::placeholder {
  color: var(--reread);
  opacity: 1;
}
@media (max-width: 720px) {
  .figure {
    height: 86px;
    font-size: 64px;
    padding: 0 14px;
  }
}
</style>
