<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { defineAsyncComponent, ref } from 'vue';

const ModelForm = defineAsyncComponent(() => import('./ModelForm.vue'));
defineProps<{
  /** Models, the shop's own first. */
  models: Schemas['ModelRow'][];
}>();
const emit = defineEmits<{ changed: [] }>();
const from = ref<Schemas['ModelRow'] | null>(null);
function saved(): void {
  from.value = null;
  emit('changed');
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Battery models">
    <table class="plain">
      <thead>
        <tr>
          <th>Model</th>
          <th>Kind</th>
          <th class="n">Cells</th>
          <th class="n">C20, Ah</th>
          <th class="n">Full gravity</th>
          <th class="n">at, °C</th>
          <th class="n">Absorb</th>
          <th class="n">Float</th>
          <th class="n">Equalize, V a cell</th>
          <th>Fill mark</th>
          <th>Source</th>
          <th>Copy</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in models" :key="m.id">
          <td>{{ m.model.name }}</td>
          <td>{{ m.model.construction.replace('_', ' ') }}</td>
          <td class="n">{{ m.model.cells }}</td>
          <td class="n">{{ m.model.c20 }}</td>
          <td class="n">{{ m.model.full_gravity.toFixed(3) }}</td>
          <td class="n">{{ m.model.reference_temperature }}</td>
          <td class="n">{{ m.model.setpoints.absorption.toFixed(2) }}</td>
          <td class="n">{{ m.model.setpoints.float.toFixed(2) }}</td>
          <td class="n">{{ m.model.setpoints.equalize?.toFixed(2) ?? 'none' }}</td>
          <td>{{ m.model.fill_mark }}</td>
          <td class="small">{{ m.model.source }}</td>
          <td>
            <button type="button" class="btn sm" :aria-label="`Copy ${m.model.name}`" @click="from = m">
              Copy
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <ModelForm v-if="from" :key="from.id" :from="from.model" @saved="saved" @close="from = null" />
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
