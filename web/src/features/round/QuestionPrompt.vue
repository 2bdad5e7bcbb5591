<script setup lang="ts">
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** Why it is asked. */
  why: string;
  /** The figure that is in question. */
  figure: string;
  /** Show keys on the buttons. */
  keys: boolean;
}>();
defineEmits<{ reread: []; keep: [] }>();
</script>

<template>
  <div class="ask" role="alertdialog" aria-label="Re-read this cell?">
    <h2><ConditionMark condition="reread" :size="20" /> Re-read this cell?</h2>
    <p>
      {{ why }}
      <template v-if="keys">Draw and return the sample twice, then read again at eye level.</template>
    </p>
    <div class="bs">
      <button type="button" class="btn go" @click="$emit('reread')">
        Re-read <kbd v-if="keys">Enter</kbd>
      </button>
      <button type="button" class="btn" @click="$emit('keep')">
        Keep {{ figure }} <kbd v-if="keys">K</kbd>
      </button>
    </div>
  </div>
</template>

<style scoped>
.ask {
  border: 1.5px solid var(--reread);
  border-left-width: 6px;
  border-radius: var(--radius);
  background: var(--action-tint);
  padding: 12px 14px 14px;
  margin-top: 8px;
}
h2 {
  display: flex;
  gap: 8px;
  align-items: center;
}
p {
  margin: 4px 0 10px;
  text-wrap: pretty;
}
.bs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.btn {
  height: 46px;
  font-size: 15px;
}
@media (max-width: 720px) {
  .ask {
    padding: 8px 10px 10px;
    margin-top: 0;
  }
  p {
    font-size: 14px;
    line-height: 18px;
    margin: 2px 0 8px;
  }
}
</style>
