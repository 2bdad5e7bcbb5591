<script setup lang="ts">
import { computed, onMounted, useId, useTemplateRef, watch } from 'vue';

const props = withDefaults(
  defineProps<{
    /** What is asked for. */
    label: string;
    /** Its id, where something leads to it. */
    id?: string;
    /** Unit of what is typed, after the label. */
    unit?: string;
    /** What is accepted, in few words. */
    hint?: string;
    /** What was wrong; empty: nothing. */
    error?: string;
    /** True where nothing may not be said. */
    required?: boolean;
    /** The label is heard only; what is asked stands elsewhere. */
    quiet?: boolean;
  }>(),
  { id: undefined, unit: '', hint: '', error: '', required: false, quiet: false },
);
const own = useId();
const id = computed(() => props.id ?? own);
const root = useTemplateRef<HTMLElement>('root');

/** The library ties neither error nor hint to its inputs. */
function tie(): void {
  const input = root.value?.querySelector(`[id="${id.value}"]`);
  if (!input) return;
  const set = (name: string, value: string): void =>
    value ? input.setAttribute(name, value) : input.removeAttribute(name);
  set('aria-invalid', props.error ? 'true' : '');
  set('aria-required', props.required ? 'true' : '');
  set('aria-describedby', props.error || props.hint ? `${id.value}-said` : '');
}
onMounted(tie);
watch(() => [props.error, props.hint, props.required], tie, { flush: 'post' });
</script>

<template>
  <div ref="root" class="field" :class="{ faulty: error }">
    <label :for="id" :class="{ 'visually-hidden': quiet }"
      >{{ unit ? `${label}, ${unit}` : label }}<slot name="label"
    /></label>
    <slot :id="id" :status="error ? ('error' as const) : ('' as const)" />
    <p v-if="error || hint" :id="`${id}-said`" :class="error ? 'fault' : 'hint'">{{ error || hint }}</p>
  </div>
</template>
