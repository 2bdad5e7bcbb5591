<script setup lang="ts">
import { sendFile, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { useModels } from '@/composables/useModels';
import { reactive, shallowRef, watch } from 'vue';
import RecordYear from './RecordYear.vue';
import TakeRecord from './TakeRecord.vue';
import TakenRecord from './TakenRecord.vue';
import { useReadRecord } from './useReadRecord';

/** CR-1 of a bank that is not on the books; nothing is kept of its file. */
const FIRST = 'flooded-6v-225';
const { options } = useModels(FIRST);
const known = Intl.supportedValuesOf('timeZone');
const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
const zones = [...new Set(['UTC', here, ...known])].map((zone) => ({ value: zone, label: zone }));
const bank = reactive({ model: FIRST, volts: '12', strings: '1', standby: false, zone: here });
const answer = shallowRef<Schemas['JudgedFile'] | null>(null);
const own = useReadRecord<Schemas['JudgedFile']>(
  () => undefined,
  (_id, query, file, stop) => {
    const described = new URLSearchParams({
      model: bank.model,
      system_voltage: bank.volts.trim() || '0',
      strings: bank.strings.trim() || '0',
      standby: String(bank.standby),
      zone: bank.zone,
    });
    return sendFile('POST', `/api/records/judged?${query}&${described}`, file, stop);
  },
  () => bank.zone,
);
watch(
  () => bank.zone,
  () => void own.lookAt(),
);
const fault = (field: string): string => own.failure.value?.fields[field] ?? '';
async function choose(chosen: File): Promise<void> {
  answer.value = null;
  await own.choose(chosen);
}
async function read(): Promise<void> {
  answer.value = await own.read();
}
</script>

<template>
  <div class="record">
    <div class="bank">
      <ChoiceField v-model="bank.model" label="Battery model" :options="options" />
      <TextField v-model="bank.volts" figure label="Volts of the bank" :error="fault('system_voltage')" />
      <TextField v-model="bank.strings" figure label="Strings in parallel" :error="fault('strings')" />
      <ChoiceField v-model="bank.zone" label="Local times are of" :options="zones" :error="fault('zone')" />
      <CheckField v-model="bank.standby" label="It stands on float day and night" />
    </div>
    <TakeRecord :own="own" @chosen="choose" @read="read">
      Its last year is judged; nothing of it is kept. Times without an offset are of the zone above.
    </TakeRecord>
    <template v-if="answer">
      <TakenRecord :taken="answer.taken" />
      <RecordYear :page="answer.page" />
    </template>
  </div>
</template>

<style scoped>
.bank {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 10px 16px;
  align-items: end;
}
</style>
