<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import PickedField from '@/components/form/PickedField.vue';
import RadioField from '@/components/form/RadioField.vue';
import TextArea from '@/components/form/TextArea.vue';
import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { rowsFrom, rowsTo } from '@/logic/typedRows';
import { v7 as uuidv7 } from 'uuid';
import { computed, reactive, ref, shallowRef } from 'vue';
import TextField from '@/components/form/TextField.vue';

const props = defineProps<{
  /** The figures the form begins with, as typed. */
  from: Schemas['TypedModel'];
  /** The model that is put right; none: a new one is made of the figures. */
  corrects?: Schemas['ModelView'] | null;
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const id = props.corrects?.id ?? uuidv7();
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
const since = ref<'always' | 'day'>('always');
const firstDay = ref<string | null>('');
const successor = uuidv7();
const copy = reactive<Schemas['TypedModel']>(JSON.parse(JSON.stringify(props.from)) as Schemas['TypedModel']);
if (!props.corrects) copy.name = copy.source = '';
const reference = reactive({ ...copy.reference_temperature });
const mark = reactive({ typed: '', ...copy.fill_mark_above_plates });
const acid = reactive({ typed: '', ...copy.acid_volume });
const table = ref(rowsTo((copy.soc_table ?? []).map((r) => [r.percent, r.gravity, r.cell_volts ?? ''])));
const rates = ref(rowsTo((copy.rates ?? []).map((r) => [r.hours, r.capacity])));
const sealed = computed(() => copy.construction === 'agm' || copy.construction === 'gel');
const degrees = computed(() => (reference.unit === 'F' ? '°F' : '°C'));

/** What was refused: by field, and for a table by its rows. */
const fault = (field: string): string =>
  Object.entries(failure.value?.fields ?? {})
    .filter(([name]) => name === field || name.startsWith(`${field}.`))
    .map(([name, said]) => (name === field ? said : `Row ${name.slice(field.length + 1)}: ${said}`))
    .join(' ');

async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  const body = {
    ...copy,
    reference_temperature: reference,
    fill_mark_above_plates: mark,
    acid_volume: acid,
    soc_table: rowsFrom(table.value).map(([percent = '', gravity = '', cell_volts = '']) => ({
      percent,
      gravity,
      cell_volts,
    })),
    rates: rowsFrom(rates.value).map(([hours = '', capacity = '']) => ({ hours, capacity })),
  };
  try {
    if (props.corrects && since.value === 'day') {
      const whole = { id: successor, from: firstDay.value ?? '', model: body };
      await need(api.POST('/api/models/{id}/successor', { params: { path: { id } }, body: whole }));
    } else {
      const header = props.corrects ? seen(props.corrects.version) : {};
      await need(api.PUT('/api/models/{id}', { params: { path: { id }, header }, body }));
    }
    emit('saved');
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormFrame class="form" :failure="failure" long asked @submit="save">
    <h3>
      {{ corrects ? `Put ${corrects.model.name} right` : 'A model of your own, from the maker’s sheet' }}
    </h3>
    <template v-if="corrects?.banks">
      <RadioField
        v-model="since"
        label="Since when"
        :options="[
          { value: 'always', label: 'it was always wrong: what was judged by it is judged anew' },
          { value: 'day', label: 'from a day on: what is before stays judged by the old figures' },
        ]"
      />
      <PickedField
        v-if="since === 'day'"
        v-model="firstDay"
        class="day"
        label="First day"
        :error="fault('from')"
      />
      <p class="small">
        {{ corrects.banks === 1 ? 'One bank stands' : `${corrects.banks} banks stand` }} on it. Reports that
        are closed stay as they were given out.
      </p>
    </template>
    <div class="grid">
      <TextField v-model="copy.name" label="Name on the case" :error="fault('name')" />
      <TextField
        v-model="copy.source"
        label="Source of the figures"
        hint="maker’s sheet and its year"
        :error="fault('source')"
      />
      <ChoiceField
        v-model="copy.construction"
        label="Construction"
        :options="[
          { value: 'flooded', label: 'flooded' },
          { value: 'flooded_tubular', label: 'flooded tubular' },
          { value: 'agm', label: 'AGM' },
          { value: 'gel', label: 'gel' },
        ]"
      />
      <TextField v-model="copy.cells" figure label="Cells in one case" :error="fault('cells')" />
      <TextField v-model="copy.c20" figure label="C20, Ah" :error="fault('c20')" />
      <TextField v-model="copy.full_gravity" figure label="Full gravity" :error="fault('full_gravity')" />
      <TextField
        v-model="copy.discharged_gravity"
        figure
        label="Discharged gravity"
        :error="fault('discharged_gravity')"
      />
      <TextField
        v-model="reference.typed"
        figure
        :label="`Reference temperature, ${degrees}`"
        :error="fault('reference_temperature')"
      />
      <TextField v-model="copy.absorption" figure label="Absorption, V a cell" :error="fault('absorption')" />
      <TextField v-model="copy.float" figure label="Float, V a cell" :error="fault('float')" />
      <TextField
        v-model="copy.equalize"
        figure
        label="Equalize, V a cell"
        hint="on sealed batteries only the maker’s own conditioning voltage"
        :error="fault('equalize')"
      />
      <TextField
        v-if="sealed && copy.equalize"
        v-model="copy.conditioning_source"
        label="Where the maker writes that voltage"
        hint="manual, year and page"
        :error="fault('equalize')"
      />
      <TextField
        v-model="copy.maker_spread_limit"
        figure
        label="Maker’s spread limit, points"
        hint="empty: none published"
        :error="fault('maker_spread_limit')"
      />
      <TextField
        v-model="acid.typed"
        figure
        :label="`Acid in one cell, ${acid.unit === 'us_gallon' ? 'US gal' : 'L'}`"
        :error="fault('acid_volume')"
      />
      <TextField
        v-model="mark.typed"
        figure
        :label="`Fill mark above the plates, ${mark.unit === 'inch' ? 'in' : 'mm'}`"
        :error="fault('fill_mark_above_plates')"
      />
      <TextField
        v-model="copy.free_area"
        figure
        label="Free area over the plates, mL per mm"
        hint="water for one mm of level"
        :error="fault('free_area')"
      />
      <TextField
        v-model="copy.post_torque"
        figure
        :label="`Torque of the posts, ${copy.torque_unit === 'pound_foot' ? 'lbf·ft' : 'N·m'}`"
        hint="empty: not published"
        :error="fault('post_torque')"
      />
      <TextField
        v-model="copy.retorque_days"
        figure
        label="Joints to torque again after, days"
        hint="empty: as the house asks"
        :error="fault('retorque_days')"
      />
      <TextField v-model="copy.fill_mark" label="Fill mark, in words" :error="fault('fill_mark')" />
    </div>
    <div class="tables">
      <TextArea
        v-model="table"
        :rows="6"
        label="Charge table: per cent, gravity, volts of a cell if printed; fullest first"
        figure
        :error="fault('soc_table')"
        hint="Empty: charge is scaled between full and discharged gravity."
      />
      <TextArea
        v-model="rates"
        :rows="6"
        label="Rate table: hours, Ah; fastest first"
        figure
        :error="fault('rates')"
      />
    </div>
    <p v-if="failure" class="fault" role="alert">Not kept yet: {{ failure.message }}</p>
    <p class="press">
      <button type="submit" class="btn go" :disabled="busy">{{ busy ? 'Saving' : 'Keep this model' }}</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.form {
  border-top: 1px solid var(--line-strong);
  padding-top: 14px;
  margin-top: 16px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 10px 14px;
  margin: 10px 0;
}
.day {
  max-width: 200px;
}
.tables {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 10px 14px;
}
p.fault {
  color: var(--act-text);
  font: var(--t-small);
  margin-top: 8px;
}
.press {
  display: flex;
  gap: 8px;
  margin-top: 12px;
}
</style>
