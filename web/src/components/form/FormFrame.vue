<script lang="ts">
/** Of several forms on a page the one that was sent last is told what was refused. */
let latest: symbol | null = null;
</script>

<script setup lang="ts">
import type { Failure } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';

const props = withDefaults(
  defineProps<{
    /** What was refused: each fault lands on its field by its name. */
    failure: Failure | null;
    /** Longer than a screen: what is wrong is listed at the top too. */
    long?: boolean;
    /** What lands on no field is said elsewhere on the page. */
    elsewhere?: boolean;
    /** Opened away from the button that asked for it: its first field takes the focus. */
    asked?: boolean;
  }>(),
  { long: false, elsewhere: false, asked: false },
);
const emit = defineEmits<{ submit: [] }>();
const own = Symbol('form');
function send(): void {
  latest = own;
  emit('submit');
}
const form = useTemplateRef<HTMLFormElement>('form');
/** What is said above the fields. */
const listed = ref<string[]>([]);

/** The first faulty field gets the focus; what lands on no field is said above them. */
async function land(failure: Failure | null): Promise<void> {
  listed.value = [];
  const messages = Object.values(failure?.fields ?? {});
  if (!messages.length || latest !== own) return;
  await nextTick();
  const landed = [...(form.value?.querySelectorAll('.fault') ?? [])].map((f) => f.textContent ?? '');
  listed.value = messages.filter((said) => props.long || !landed.some((at) => at.includes(said)));
  await nextTick();
  form.value?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
}
watch(() => props.failure, land, { flush: 'post' });
onMounted(() => {
  if (!props.asked) return;
  form.value?.scrollIntoView({ block: 'start' });
  form.value?.querySelector<HTMLElement>('input, textarea')?.focus({ preventScroll: true });
});
</script>

<template>
  <form ref="form" novalidate @submit.prevent="send">
    <FailureNote :failure="failure && !elsewhere && !Object.keys(failure.fields).length ? failure : null" />
    <div v-if="listed.length" class="listed" role="alert">
      <p>Not kept yet; what was typed is still here.</p>
      <ul>
        <li v-for="said in listed" :key="said">{{ said }}</li>
      </ul>
    </div>
    <slot />
  </form>
</template>

<style scoped>
.listed {
  grid-column: 1 / -1;
  flex: 1 1 100%;
  border-left: 6px solid var(--act);
  background: var(--act-tint);
  border-radius: var(--radius);
  padding: 8px 14px;
  margin-bottom: 10px;
}
</style>
