<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import CountField from '@/components/form/CountField.vue';
import PickedField from '@/components/form/PickedField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import SuggestField from '@/components/form/SuggestField.vue';
import TextField from '@/components/form/TextField.vue';
import { optionsOf } from '@/components/form/field';
import type { Failure, Schemas } from '@/api/client';
import type { Draft } from './useBankDraft';
import type { useClimate } from './useClimate';
import { computed } from 'vue';
import ClimateFields from './ClimateFields.vue';

const props = defineProps<{
  /** What is known so far. */
  models: Schemas['ModelView'][];
  sites: Schemas['Site'][];
  rules: Schemas['HouseRules'][];
  /** Numbers that do not make a bank, by their field. */
  misfit: Record<string, string>;
  /** What was refused. */
  failure: Failure | null;
  /** True for a bank that is put right: what it is made of stays. */
  existing: boolean;
  /** The climate of the site as it is typed. */
  climate: ReturnType<typeof useClimate>;
}>();
/** The bank as typed. */
const draft = defineModel<Draft>({ required: true });
const said = (field: string): string => props.failure?.fields[field] ?? '';
const known = Intl.supportedValuesOf('timeZone').concat('UTC');
// A site may stand in a zone this browser does not list.
const zones = computed(() => (known.includes(draft.value.zone) ? known : [draft.value.zone, ...known]));
</script>

<template>
  <div>
    <fieldset>
      <legend>Where</legend>
      <SuggestField
        v-model="draft.site"
        class="wide"
        label="Site"
        required
        :suggestions="sites.map((s) => s.name)"
        :error="said('name') || said('site_name')"
      />
      <template v-if="existing || !sites.some((s) => s.name === draft.site)">
        <TextField
          v-model="draft.kind"
          class="wide"
          placeholder="summer dairy, off-grid"
          label="What it is"
          :error="said('kind') || said('site_kind')"
        />
        <ChoiceField
          v-model="draft.zone"
          class="wide"
          label="Time zone"
          :options="optionsOf(zones)"
          :error="said('zone')"
        />
        <TextField v-model="draft.region" :maxlength="60" label="Region" :error="said('region')" />
        <PickedField
          v-model="draft.wet"
          kind="month-day"
          label="Wet season begins"
          :error="said('wet_season')"
        />
        <PickedField
          v-model="draft.frost"
          kind="month-day"
          label="First hard frost"
          :error="said('first_frost')"
        />
        <ClimateFields
          v-model:southern="draft.southern"
          v-model:latitude="draft.latitude"
          :climate="climate"
          :site="draft.site"
          :astray="said('latitude')"
        />
      </template>
      <TextField
        v-model="draft.name"
        :maxlength="80"
        label="Bank, if several"
        :error="existing ? '' : said('bank_name')"
      />
      <ChoiceField
        v-model="draft.duty"
        label="Duty"
        :options="optionsOf(['off-grid solar', 'coach', 'marine', 'cart', 'standby', 'seasonal off-grid'])"
      />
    </fieldset>
    <fieldset>
      <legend>{{ existing ? 'Its cells' : 'What it is made of' }}</legend>
      <ChoiceField
        v-if="!existing"
        v-model="draft.model"
        class="wide"
        label="Battery model"
        :options="
          models.map((m) => ({ value: m.id, label: `${m.model.name}${m.shipped ? ' (generic)' : ''}` }))
        "
        :hint="models.find((m) => m.id === draft.model)?.model.source"
      />
      <TextField
        v-model="draft.volts"
        :disabled="existing"
        label="System voltage, V"
        figure
        :error="misfit.system_voltage"
      />
      <CountField
        v-model="draft.series"
        :disabled="existing"
        label="Batteries in series"
        :error="misfit.series ?? misfit.shape"
      />
      <CountField
        v-model="draft.parallel"
        :disabled="existing"
        label="Strings in parallel"
        :error="misfit.parallel"
      />
      <p v-if="existing" class="small wide">
        These name its cells, so they stay. Its battery model is put right under this form; of batteries with
        other cells it is another bank: archive this one and describe that.
      </p>
    </fieldset>
    <fieldset>
      <legend>How it stands, seen from where you work</legend>
      <CountField v-model="draft.rows" label="Rows in a string" :error="misfit.rows" />
      <CountField v-model="draft.tiers" label="Tiers, shelves" :error="misfit.tiers" />
      <ChoiceField
        v-model="draft.positive"
        label="Positive end of string A"
        :options="[
          { value: 'left', label: 'left' },
          { value: 'right', label: 'right' },
        ]"
      />
      <CheckField v-model="draft.alternate" class="wide" label="every other string is turned around" />
      <TextField v-model="draft.far" label="Behind the first row" />
      <TextField v-model="draft.near" label="Before the last row" />
    </fieldset>
    <fieldset>
      <legend>Its life</legend>
      <PickedField
        v-model="draft.since"
        loose
        label="In service since"
        hint="a year will do; empty: unknown"
        :error="said('in_service')"
      />
      <TextField
        v-model="draft.keeper"
        :maxlength="4"
        placeholder="initials"
        label="Looked after by"
        :error="said('keeper')"
      />
      <PickedField
        v-model="draft.opens"
        kind="month-day"
        label="In use from"
        :error="said('season_opens')"
        hint="a day of every year; empty: all year"
      />
      <PickedField
        v-model="draft.closes"
        kind="month-day"
        label="In use until"
        :error="said('season_closes')"
      />
      <ChoiceField
        v-if="!existing"
        v-model="draft.rules"
        label="House rules"
        :options="rules.map((r) => ({ value: r.key, label: r.name }))"
        :hint="rules.find((r) => r.key === draft.rules)?.suits"
      />
    </fieldset>
  </div>
</template>

<style scoped>
fieldset {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 0;
  padding: 10px 0 12px;
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px 12px;
  align-items: start;
}
legend {
  font: var(--t-title);
  float: left;
  grid-column: 1 / -1;
  padding: 0;
  width: 100%;
}
.wide {
  grid-column: 1 / -1;
}
.fault {
  color: var(--act-text);
  min-height: 17px;
  font: var(--t-small);
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
}
@media (max-width: 720px) {
  fieldset {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
