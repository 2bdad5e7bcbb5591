<script setup lang="ts">
defineProps<{
  /** What has to be done before the press. */
  said: string;
}>();
defineEmits<{ stop: [] }>();
</script>

<template>
  <div class="frame">
    <button type="button" class="stop" @click="$emit('stop')">
      <span class="head"><i aria-hidden="true" />Stop</span>
      <span class="said">{{ said }}</span>
    </button>
  </div>
</template>

<style scoped>
.frame {
  border: 3px solid var(--act);
  border-radius: 6px;
  padding: 3px;
  margin-top: 14px;
}
.stop {
  display: grid;
  gap: 6px;
  width: 100%;
  border: 0;
  border-radius: var(--radius);
  background: var(--act);
  color: var(--on-act);
  padding: 16px 18px;
  text-align: left;
  font: 600 14px/19px var(--text);
  cursor: pointer;
}
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  font: 700 38px/44px var(--text);
}
.head i {
  width: 32px;
  height: 32px;
  background: currentColor;
}
.stop:focus-visible {
  outline: 3px solid var(--action);
  outline-offset: 5px;
}
@media (max-width: 720px) {
  .frame {
    position: sticky;
    bottom: 8px;
    background: var(--ground);
    z-index: 4;
  }
  .stop {
    padding: 12px 16px;
  }
}
</style>
