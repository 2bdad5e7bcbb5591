<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue';

/** A group of what can be chosen. */
export interface MenuGroup {
  /** What stands over it. */
  title: string;
  items: { key: string; label: string; hint?: string }[];
}
const props = defineProps<{
  /** What the button says. */
  label: string;
  groups: MenuGroup[];
}>();
const emit = defineEmits<{ opened: []; chosen: [key: string] }>();
const open = ref(false);
const button = useTemplateRef<HTMLButtonElement>('button');
const list = useTemplateRef<HTMLElement>('list');
const items = (): HTMLElement[] => [
  ...(list.value?.querySelectorAll<HTMLElement>('[role="menuitem"]') ?? []),
];

/** True once an arrow was pressed: what comes late moves the focus no more. */
let walked = false;
/** It takes some frames until the menu is drawn and can be focused. */
function first(frames = 60): void {
  if (!open.value || walked || !frames) return;
  const item = items()[0];
  item?.focus();
  if (!item || document.activeElement !== item) requestAnimationFrame(() => first(frames - 1));
}
watch(
  () => props.groups,
  () => first(),
  { flush: 'post' },
);
async function change(now: boolean): Promise<void> {
  open.value = now;
  if (!now) return;
  emit('opened');
  // The library's menu takes neither focus nor arrows by itself.
  walked = false;
  await nextTick();
  first();
}
function leave(): void {
  open.value = false;
  button.value?.focus();
}
function choose({ key }: { key: string | number }): void {
  leave();
  emit('chosen', String(key));
}
function walk(event: KeyboardEvent): void {
  const all = items();
  const at = all.indexOf(document.activeElement as HTMLElement);
  const to: Record<string, number> = {
    ArrowDown: (at + 1) % all.length,
    ArrowUp: (at - 1 + all.length) % all.length,
    Home: 0,
    End: all.length - 1,
  };
  if (event.key in to) {
    event.preventDefault();
    walked = true;
    all[to[event.key]!]?.focus();
  } else if (event.key === 'Escape' || event.key === 'Tab') {
    event.preventDefault();
    event.stopPropagation();
    leave();
  }
}
</script>

<template>
  <a-dropdown :open="open" :trigger="['click']" placement="bottomRight" @open-change="change">
    <button ref="button" type="button" class="btn sm" aria-haspopup="menu" :aria-expanded="open">
      {{ label }}
    </button>
    <template #overlay>
      <div ref="list" class="menu" @keydown="walk">
        <a-menu :selectable="false" @click="choose">
          <!-- The library's own groups stand in the menu without a role that a menu may hold. -->
          <template v-for="group in groups" :key="group.title">
            <li class="title" role="presentation">{{ group.title }}</li>
            <a-menu-item v-for="item in group.items" :key="item.key" :title="item.hint">{{
              item.label
            }}</a-menu-item>
          </template>
        </a-menu>
      </div>
    </template>
  </a-dropdown>
</template>

<style scoped>
.menu {
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  box-shadow: 0 6px 18px var(--shade);
  background: var(--surface);
  max-height: 80vh;
  overflow: auto;
}
.menu :deep(.ant-dropdown-menu) {
  border: 0;
  box-shadow: none !important;
}
.title {
  padding: 6px 12px 2px;
  font: var(--t-label);
  color: var(--ink-3);
}
.menu :deep([role='menuitem']:focus-visible) {
  outline-offset: -2px;
}
</style>
