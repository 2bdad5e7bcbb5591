<script setup lang="ts">
import SideDrawer from '@/components/ui/SideDrawer.vue';

defineProps<{
  /** Cells that are not read yet. */
  unread: number;
}>();
defineEmits<{ leave: []; conditions: []; finish: [] }>();
const open = defineModel<boolean>('open', { required: true });
</script>

<template>
  <SideDrawer v-model:open="open" title="Leave this round?" :width="380" short>
    <p>Every reading shown is saved. Resume here or on another device.</p>
    <div class="two">
      <button type="button" class="btn" @click="open = false">Stay</button>
      <button type="button" class="btn go" @click="$emit('leave')">Leave, resume later</button>
      <button type="button" class="btn" @click="$emit('conditions')">Conditions</button>
      <button type="button" class="btn" @click="$emit('finish')">
        {{ unread ? 'Finish early' : 'Finish and judge' }}
      </button>
    </div>
  </SideDrawer>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 12px;
}
.two .btn {
  min-height: 48px;
}
</style>
