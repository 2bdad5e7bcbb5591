<script setup lang="ts">
defineProps<{
  /** The place, first and strongest; none where it stands above. */
  place?: string;
  /** What else places it. */
  parts?: (string | null | undefined)[];
}>();
</script>

<template>
  <div class="where">
    <p class="parts">
      <b v-if="place">{{ place }}</b>
      <template v-for="(part, at) in (parts ?? []).filter(Boolean)" :key="part!">
        <i v-if="place || at" class="sep" aria-hidden="true" /><span>{{ part }}</span>
      </template>
    </p>
    <span class="do"><slot /></span>
  </div>
</template>

<style scoped>
.where {
  display: flex;
  align-items: flex-start;
  justify-content: space-between;
  gap: 4px 20px;
  font: var(--t-label);
  color: var(--ink-3);
  min-height: 28px;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 10px;
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
  flex: none;
  display: flex;
  gap: 8px;
}
@media (max-width: 720px) {
  .sep {
    display: none;
  }
  .where {
    display: block;
    margin-bottom: 6px;
  }
  .do {
    flex-wrap: wrap;
    margin: 4px 0 10px;
  }
  .do:empty {
    display: none;
  }
}
</style>
