<script setup lang="ts">
import type { Failure, Schemas } from '@/api/client';
import type { Draft } from '@/composables/useBankDraft';
import type { useClimate } from '@/composables/useClimate';
import { computed } from 'vue';
import ClimateFields from './ClimateFields.vue';

defineProps<{
  /** What is known so far. */
  models: Schemas['ModelView'][];
  sites: Schemas['Site'][];
  rules: Schemas['HouseRules'][];
  /** Why the numbers do not make a bank; empty while they do. */
  misfit: string;
  /** What was refused. */
  failure: Failure | null;
  /** True for a bank that is put right: what it is made of stays. */
  existing: boolean;
  /** The climate of the site as it is typed. */
  climate: ReturnType<typeof useClimate>;
}>();
/** The bank as typed. */
const draft = defineModel<Draft>({ required: true });
const known = Intl.supportedValuesOf('timeZone').concat('UTC');
// A site may stand in a zone this browser does not list.
const zones = computed(() => (known.includes(draft.value.zone) ? known : [draft.value.zone, ...known]));
</script>

<template>
  <div>
    <fieldset>
      <legend>Where</legend>
      <div class="field wide">
        <label for="site">Site</label>
        <input
          id="site"
          v-model="draft.site"
          class="text"
          list="sites"
          maxlength="80"
          autocomplete="off"
          required
        />
        <datalist id="sites"><option v-for="s in sites" :key="s.id" :value="s.name" /></datalist>
      </div>
      <template v-if="existing || !sites.some((s) => s.name === draft.site)">
        <div class="field wide">
          <label for="kind">What it is</label
          ><input id="kind" v-model="draft.kind" class="text" placeholder="summer dairy, off-grid" />
        </div>
        <div class="field wide">
          <label for="zone">Time zone</label>
          <select id="zone" v-model="draft.zone" class="text">
            <option v-for="z in zones" :key="z">{{ z }}</option>
          </select>
        </div>
        <div class="field">
          <label for="region">Region</label
          ><input id="region" v-model="draft.region" class="text" maxlength="60" />
        </div>
        <div class="field">
          <label for="wet">Wet season begins</label
          ><input id="wet" v-model="draft.wet" class="text mono" placeholder="11-01" /><span class="fault">{{
            failure?.fields.wet_season
          }}</span>
        </div>
        <div class="field">
          <label for="frost">First hard frost</label
          ><input id="frost" v-model="draft.frost" class="text mono" placeholder="10-20" /><span
            class="fault"
            >{{ failure?.fields.first_frost }}</span
          >
        </div>
        <ClimateFields v-model:southern="draft.southern" :climate="climate" :site="draft.site" />
      </template>
      <div class="field">
        <label for="name">Bank, if several</label
        ><input id="name" v-model="draft.name" class="text" maxlength="80" />
      </div>
      <div class="field">
        <label for="duty">Duty</label>
        <select id="duty" v-model="draft.duty" class="text">
          <option
            v-for="d in ['off-grid solar', 'coach', 'marine', 'cart', 'standby', 'seasonal off-grid']"
            :key="d"
          >
            {{ d }}
          </option>
        </select>
      </div>
    </fieldset>
    <fieldset>
      <legend>What it is made of</legend>
      <div class="field wide">
        <label for="model">Battery model</label>
        <select id="model" v-model="draft.model" class="text" :disabled="existing">
          <option v-for="m in models" :key="m.id" :value="m.id">
            {{ m.model.name }}{{ m.shipped ? ' (generic)' : '' }}
          </option>
        </select>
        <span class="hint">{{ models.find((m) => m.id === draft.model)?.model.source }}</span>
      </div>
      <div class="field">
        <label for="volts">System voltage, V</label
        ><input id="volts" v-model="draft.volts" class="text mono" inputmode="numeric" :disabled="existing" />
      </div>
      <div class="field">
        <label for="series">Batteries in series</label>
        <input
          id="series"
          v-model="draft.series"
          class="text mono"
          inputmode="numeric"
          :disabled="existing"
          :aria-invalid="!!misfit"
          aria-describedby="misfit"
        />
      </div>
      <div class="field">
        <label for="parallel">Strings in parallel</label
        ><input
          id="parallel"
          v-model="draft.parallel"
          class="text mono"
          inputmode="numeric"
          :disabled="existing"
        />
      </div>
      <p v-if="existing" class="small wide">
        What it is made of names its cells, so it stays. Of other batteries it is another bank: archive this
        one and describe that.
      </p>
      <p id="misfit" class="fault wide" role="status">{{ misfit }}</p>
    </fieldset>
    <fieldset>
      <legend>How it stands, seen from where you work</legend>
      <div class="field">
        <label for="rows">Rows in a string</label
        ><input id="rows" v-model="draft.rows" class="text mono" inputmode="numeric" />
      </div>
      <div class="field">
        <label for="tiers">Tiers, shelves</label
        ><input id="tiers" v-model="draft.tiers" class="text mono" inputmode="numeric" />
      </div>
      <div class="field">
        <label for="end">Positive end of string A</label>
        <select id="end" v-model="draft.positive" class="text">
          <option value="left">left</option>
          <option value="right">right</option>
        </select>
      </div>
      <label class="check wide"
        ><input v-model="draft.alternate" type="checkbox" /> every other string is turned around</label
      >
      <div class="field">
        <label for="far">Behind the first row</label><input id="far" v-model="draft.far" class="text" />
      </div>
      <div class="field">
        <label for="near">Before the last row</label><input id="near" v-model="draft.near" class="text" />
      </div>
    </fieldset>
    <fieldset>
      <legend>Its life</legend>
      <div class="field">
        <label for="since">In service since</label>
        <input
          id="since"
          v-model="draft.since"
          class="text mono"
          placeholder="2023 or 2023-05-14"
          :aria-invalid="!!failure?.fields.in_service"
        />
        <span class="hint">a year will do; empty: unknown</span>
      </div>
      <div class="field">
        <label for="keeper">Looked after by</label
        ><input id="keeper" v-model="draft.keeper" class="text" maxlength="4" placeholder="initials" />
      </div>
      <div class="field">
        <label for="opens">In use from</label
        ><input id="opens" v-model="draft.opens" class="text mono" placeholder="05-15" /><span
          class="fault"
          >{{ failure?.fields.season_opens }}</span
        >
        <span class="hint">month-day; empty: all year</span>
      </div>
      <div class="field">
        <label for="closes">In use until</label
        ><input id="closes" v-model="draft.closes" class="text mono" placeholder="10-15" /><span
          class="fault"
          >{{ failure?.fields.season_closes }}</span
        >
      </div>
      <div v-if="!existing" class="field">
        <label for="rules">House rules</label>
        <select id="rules" v-model="draft.rules" class="text">
          <option v-for="r in rules" :key="r.key" :value="r.key">{{ r.name }}</option>
        </select>
        <span class="hint">{{ rules.find((r) => r.key === draft.rules)?.suits }}</span>
      </div>
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
