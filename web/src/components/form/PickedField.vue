<script setup lang="ts">
import { useMe } from '@/stores/me';
import { useServerDay } from '@/composables/useServerDay';
import dayjs, { type Dayjs } from 'dayjs';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { beginWeeksOn, exampleOf, fromWire, shownAs, toWire, understood, type Picked } from './typedDates';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = withDefaults(
  defineProps<
    FieldProps & {
      /** A day, a day of every year, or a time of day. */
      kind?: Picked;
      /** A year, or a month of one, is said too. */
      loose?: boolean;
    }
  >(),
  { kind: 'day', loose: false },
);
/** As it goes over the wire; what is not understood stays as it was typed. */
const model = defineModel<string | null | undefined>({ required: true });
const store = useMe();
beginWeeksOn(store.me.week);
const today = useServerDay();
const machine = dayjs().format('YYYY-MM-DD');
const opensOn = ref(today.value ?? machine);
const isOpen = ref(false);
const root = useTemplateRef<HTMLElement>('root');

const shown = (wire: string): string =>
  fromWire(wire, props.kind)?.format(shownAs(props.kind, store.me.days)) ?? wire;
const typed = ref(shown(model.value ?? ''));
const left = ref(true);
const moment = computed(() => fromWire(model.value ?? '', props.kind));
const strange = computed(() => {
  const text = typed.value.trim();
  if (!left.value || !text || moment.value || (props.loose && /^\d{4}(-\d{1,2})?$/.test(text))) return '';
  const what = props.kind === 'time' ? 'time of day' : 'day';
  return `“${text}” is no ${what}. Type it as ${exampleOf(props.kind, store.me.days)}, or pick it.`;
});

function type(text: string): void {
  left.value = false;
  typed.value = text;
  const found = understood(text, props.kind, store.me.days);
  model.value = found ? toWire(found, props.kind) : text.trim();
}
function leave(): void {
  left.value = true;
  if (moment.value) typed.value = shown(model.value ?? '');
}
function pick(picked: Dayjs | string | null): void {
  if (!picked || typeof picked === 'string') return;
  model.value = toWire(picked, props.kind);
  typed.value = shown(model.value);
  left.value = true;
}
watch(model, (now) => {
  if (left.value) typed.value = shown(now ?? '');
});
// The picker is a button of ours; the text beside it is the field.
function name(): void {
  root.value?.querySelector('.picker input')?.setAttribute('aria-label', `Pick: ${props.label}`);
}
onMounted(name);
watch(opensOn, name, { flush: 'post' });
// The library reads the month it opens on when it is made; one that is in use is not made again under the hand.
function turnToToday(): void {
  const inUse = isOpen.value || root.value?.querySelector('.picker')?.contains(document.activeElement);
  if (today.value && !inUse) opensOn.value = today.value;
}
watch(today, turnToToday);
</script>

<template>
  <div ref="root" class="picked" v-bind="place">
    <FormField v-slot="{ id, status }" v-bind="props" :error="strange || error">
      <span class="line">
        <a-input
          :id="id"
          class="mono"
          :value="typed"
          :status="status"
          :maxlength="24"
          autocomplete="off"
          :placeholder="exampleOf(kind, store.me.days)"
          v-bind="control"
          @update:value="type"
          @blur="leave"
        />
        <a-time-picker
          v-if="kind === 'time'"
          class="picker"
          :value="moment ?? undefined"
          format="HH:mm"
          input-read-only
          :allow-clear="false"
          placeholder=""
          @change="pick"
        />
        <a-date-picker
          v-else
          :key="opensOn"
          class="picker"
          :default-picker-value="dayjs(opensOn)"
          :value="moment ?? undefined"
          input-read-only
          :allow-clear="false"
          :show-today="kind === 'day' && opensOn === machine"
          placeholder=""
          @change="pick"
          @blur="turnToToday"
          @open-change="(open: boolean) => (isOpen = open)"
        >
          <!-- The library's own arrows have no names. -->
          <template #superPrevIcon>«<span class="visually-hidden">A year back</span></template>
          <template #prevIcon>‹<span class="visually-hidden">A month back</span></template>
          <template #nextIcon>›<span class="visually-hidden">A month on</span></template>
          <template #superNextIcon>»<span class="visually-hidden">A year on</span></template>
          <template #suffixIcon
            ><svg
              viewBox="0 0 16 16"
              width="16"
              height="16"
              fill="none"
              stroke="currentColor"
              aria-hidden="true"
            >
              <path d="M1.5 3.5h13v11h-13zM1.5 7h13M5 1.5v3.5M11 1.5v3.5" /></svg
          ></template>
        </a-date-picker>
      </span>
    </FormField>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  gap: 4px;
}
.line :deep(.ant-input) {
  min-width: 0;
}
/* A button as wide as it is high; what is picked stands in the field. */
.picker {
  flex: none;
  width: var(--control);
  padding: 0;
  cursor: pointer;
}
.picker :deep(input) {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  color: transparent;
  cursor: pointer;
}
.picker :deep(.ant-picker-suffix) {
  margin: auto;
  color: var(--action);
}
</style>
