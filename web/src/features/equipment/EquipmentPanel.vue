<script setup lang="ts">
import { api, need } from '@/api/client';
import ChargeLimits from './ChargeLimits.vue';
import AuditLines from '@/features/calculators/AuditLines.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import EquipmentForm from './EquipmentForm.vue';
import EquipmentTold from './EquipmentTold.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { ref } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** False for an archived bank. */
  editable: boolean;
}>();
const emit = defineEmits<{ changed: [] }>();
const telling = ref(false);
const { data, loading, failure, load } = useRemote(() =>
  need(api.GET('/api/banks/{id}/equipment', { params: { path: { id: props.bank } } })),
);
function saved(): void {
  telling.value = false;
  void load();
  emit('changed');
}
</script>

<template>
  <section>
    <header>
      <h2>Charger and loads</h2>
      <button v-if="editable && data" type="button" class="btn sm" @click="telling = !telling">
        {{ data.version ? 'Change' : 'Tell what stands there' }}
      </button>
    </header>
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
    <template v-else-if="data">
      <EquipmentForm v-if="telling" :bank="bank" :page="data" @saved="saved" @close="telling = false" />
      <p v-if="data.first">{{ data.first.said }}.</p>
      <AuditLines v-if="data.first?.now" :audit="data.first.now" />
      <p v-else class="dim">Nobody has said yet what the charger is set to. Read its display and type it.</p>
      <p v-for="s in data.seasons" :key="s.at" class="season">
        <ConditionMark :condition="s.condition" />
        <span
          >At {{ s.at }}: {{ s.verdict }}
          {{ s.stages.map((l) => `${l.stage} ${l.set} V, right is ${l.wanted || '–'} V`).join('; ') }}.</span
        >
      </p>
      <div v-for="own in data.others" :key="own.said" class="other">
        <p>{{ own.said }}.</p>
        <AuditLines v-if="own.now" :audit="own.now" />
      </div>
      <p v-if="data.finishes" class="season">
        <ConditionMark condition="watch" /><span>Nothing finishes the charge. {{ data.finishes }}</span>
      </p>
      <p v-if="data.equipment.loads?.length" class="small">
        Connected:
        {{ data.equipment.loads.map((l) => `${l.name} (up to ${l.highest_volts} V)`).join(', ') }}.
      </p>
      <p v-if="data.equipment.feed" class="small">Feed from {{ data.equipment.feed }}.</p>
      <EquipmentTold :page="data" />
      <ChargeLimits :page="data" />
    </template>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 16px 0 6px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.season {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
.other {
  margin-top: 14px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
</style>
