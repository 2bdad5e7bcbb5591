<script setup lang="ts">
import { api, need } from '@/api/client';
import AuditLines from '@/features/calculators/AuditLines.vue';
import EquipmentForm from '@/features/equalize/EquipmentForm.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
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
  <section class="charger">
    <header>
      <h2>Charger and loads</h2>
      <button v-if="editable && data" type="button" class="btn sm" @click="telling = !telling">
        {{ data.version ? 'Change' : 'Tell what it is set to' }}
      </button>
    </header>
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
    <template v-else-if="data">
      <EquipmentForm
        v-if="telling"
        :bank="bank"
        :equipment="data.equipment"
        :version="data.version"
        @saved="saved"
        @close="telling = false"
      />
      <AuditLines v-if="data.now" :audit="data.now" />
      <p v-else class="dim">Nobody has said yet what the charger is set to. Read its display and type it.</p>
      <p v-for="s in data.seasons" :key="s.at" class="season">
        <ConditionMark :condition="s.condition" />
        <span
          >At {{ s.at }}: {{ s.verdict }}
          <template v-for="line in s.stages" :key="line.stage">
            {{ line.stage }} {{ line.set }} V, right is {{ line.wanted || '–' }} V;
          </template></span
        >
      </p>
      <p v-if="data.equipment.loads?.length" class="small">
        Connected:
        {{ data.equipment.loads.map((l) => `${l.name} (up to ${l.highest_volts} V)`).join(', ') }}.
      </p>
      <p v-if="data.equipment.feed" class="small">Feed from {{ data.equipment.feed }}.</p>
    </template>
  </section>
</template>

<style scoped>
.charger {
  margin-top: 16px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 6px;
}
.season {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
