<script setup lang="ts">
defineProps<{
  /** The place, first and strongest. */
  place: string;
  /** What else places it. */
  parts?: (string | null | undefined)[];
}>();
</script>

<template>
  <div class="where">
    <b>{{ place }}</b>
    <template v-for="part in (parts ?? []).filter(Boolean)" :key="part!">
      <i class="sep" aria-hidden="true" /><span>{{ part }}</span>
    </template>
    <span class="do"><slot /></span>
  </div>
</template>

<style scoped>
.where {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  font: var(--t-label);
  color: var(--ink-3);
  min-height: 28px;
}
.where b {
  color: var(--ink);
  font-size: 13px;
}
.sep {
  width: 1px;
  height: 12px;
  background: var(--line-strong);
  opacity: 0.6;
}
.do {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
@media (max-width: 720px) {
  .sep {
    display: none;
  }
  .do {
    margin: 4px 0 10px;
    width: 100%;
  }
  .do:empty {
    display: none;
  }
}
</style>
