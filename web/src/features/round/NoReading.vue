<script setup lang="ts">
import TextField from '@/components/form/TextField.vue';
import { ref } from 'vue';

defineProps<{
  /** The cell. */
  cell: string;
}>();
defineEmits<{ note: [kind: 'not_read' | 'below_scale' | 'above_scale', reason: string]; close: [] }>();
const reason = ref('');
</script>

<template>
  <div class="none" role="group" :aria-label="`No reading at ${cell}`" @keydown.esc.stop="$emit('close')">
    <TextField
      v-model="reason"
      placeholder="vent cap seized"
      autofocus
      :label="`Why there is no reading at ${cell}`"
      @keydown.enter.prevent="$emit('note', 'not_read', reason)"
    />
    <div class="bs">
      <button type="button" class="btn go" @click="$emit('note', 'not_read', reason)">Not read</button>
      <button type="button" class="btn" @click="$emit('note', 'below_scale', '')">
        Float below the scale
      </button>
      <button type="button" class="btn" @click="$emit('note', 'above_scale', '')">
        Float above the scale
      </button>
      <button type="button" class="btn quiet" @click="$emit('close')">Back</button>
    </div>
  </div>
</template>

<style scoped>
.none {
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 12px 14px;
  display: grid;
  gap: 10px;
  background: var(--surface);
}
.bs {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
