<script setup lang="ts">
import { computed } from 'vue';
import type { FieldProps } from './field';

const props = defineProps<
  FieldProps & {
    /** What each figure is of, in order. */
    names: string[];
  }
>();
/** Figures apart by blanks. */
const typed = defineModel<string>({ required: true });
const figures = computed(() => {
  const parts = typed.value.split(/[\s;]+/).filter(Boolean);
  return props.names.map((_, i) => parts[i] ?? '');
});
/** A row of figures that was copied elsewhere is spread over the fields from the one it is put into. */
function put(i: number, text: string): void {
  const parts = text.trim().split(/[\s;]+/);
  const all = [...figures.value];
  parts.forEach((part, n) => {
    if (i + n < all.length) all[i + n] = part;
  });
  typed.value = all.map((own) => own || '?').join(' ');
}
</script>

<template>
  <fieldset class="figures field" :class="{ faulty: error }">
    <legend>{{ unit ? `${label}, ${unit}` : label }}</legend>
    <div class="grid">
      <label v-for="(name, i) in names" :key="name">
        <span>{{ name }}</span>
        <a-input
          :value="figures[i] === '?' ? '' : figures[i]"
          class="mono"
          size="small"
          inputmode="decimal"
          autocomplete="off"
          :aria-label="`${label}, ${name}`"
          :status="error ? 'error' : ''"
          @update:value="put(i, String($event ?? ''))"
        />
      </label>
    </div>
    <p v-if="error || hint" :class="error ? 'fault' : 'hint'">{{ error || hint }}</p>
  </fieldset>
</template>

<style scoped>
.figures {
  border: 0;
  margin: 0;
  padding: 0;
  min-width: 0;
}
legend {
  font: var(--t-small);
  font-weight: 600;
  padding: 0;
}
.grid {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 4px 6px;
}
.grid span {
  display: block;
  font: var(--t-small);
  color: var(--ink-3);
}
</style>
