<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed, ref } from 'vue';
import PlanControl from './PlanControl.vue';
import type { PlanValues } from './usePlanner';

const props = defineProps<{
  /** Everything that can be set. */
  controls: Schemas['Control'][];
  /** What is set. */
  values: PlanValues;
  /** What was wrong, by key. */
  fault: (key: string) => string;
}>();
const emit = defineEmits<{ set: [key: string, value: string] }>();

/** Which groups are open; the first is, until it is shut. */
const opened = ref<Record<string, boolean>>({});
const isOpen = (name: string, first: boolean, own: Schemas['Control'][]): boolean =>
  (opened.value[name] ?? first) || own.some((c) => !!props.fault(c.key));
function toggled(name: string, event: Event): void {
  opened.value[name] = (event.target as HTMLDetailsElement).open;
}
const shown = (own: Schemas['Control']): boolean =>
  !own.shown_when || own.shown_when.is.includes(props.values[own.shown_when.key] ?? '');
const groups = computed(() => {
  const all = new Map<string, Schemas['Control'][]>();
  for (const own of props.controls.filter(shown)) all.set(own.group, [...(all.get(own.group) ?? []), own]);
  return [...all.entries()];
});
</script>

<template>
  <details
    v-for="([name, own], i) in groups"
    :key="name"
    :open="isOpen(name, i === 0, own)"
    @toggle="toggled(name, $event)"
  >
    <summary>{{ name }}</summary>
    <div class="own">
      <PlanControl
        v-for="c in own"
        :key="c.key"
        :own="c"
        :error="fault(c.key)"
        :model-value="values[c.key] ?? ''"
        @update:model-value="emit('set', c.key, $event)"
      />
    </div>
  </details>
</template>

<style scoped>
details {
  border-bottom: 1px solid var(--line);
}
summary {
  padding: 9px 0;
  font-weight: 650;
  cursor: pointer;
}
.own {
  display: grid;
  gap: 11px;
  padding: 2px 0 14px;
}
</style>
