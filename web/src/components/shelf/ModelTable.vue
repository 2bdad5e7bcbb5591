<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { defineAsyncComponent, ref } from 'vue';

const ModelForm = defineAsyncComponent(() => import('./ModelForm.vue'));
defineProps<{
  /** Models, the shop's own first. */
  models: Schemas['ModelView'][];
}>();
const emit = defineEmits<{ changed: [] }>();
const from = ref<Schemas['ModelView'] | null>(null);
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
          <th class="n">at</th>
          <th class="n">Absorption, float, equalize, V a cell</th>
          <th class="n">Acid in a cell</th>
          <th>Fill mark</th>
          <th>Source</th>
          <th>Copy</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in models" :key="m.id">
          <td>{{ m.model.name }}</td>
          <td>{{ m.kind }}</td>
          <td class="n">{{ m.model.cells }}</td>
          <td class="n">{{ m.model.c20 }}</td>
          <td class="n">{{ m.model.full_gravity.toFixed(3) }}</td>
          <td class="n">{{ m.reference }}</td>
          <td class="n volts">
            {{ m.model.setpoints.absorption.toFixed(2) }} {{ m.model.setpoints.float.toFixed(2) }}
            {{ m.model.setpoints.equalize?.toFixed(2) ?? 'none' }}
          </td>
          <td class="n">{{ m.acid ?? '–' }}</td>
          <td>
            {{ m.model.fill_mark
            }}<template v-if="m.mark_height">, {{ m.mark_height }} above the plates</template>
          </td>
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
  <ModelForm v-if="from" :key="from.id" :from="from.typed" @saved="saved" @close="from = null" />
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.scroll table {
  min-width: 1040px;
}
.volts {
  white-space: nowrap;
  word-spacing: 6px;
}
th:nth-child(7) {
  white-space: normal;
  min-width: 150px;
}
</style>
