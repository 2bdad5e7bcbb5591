<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
import EquipmentForm from './EquipmentForm.vue';
import BreakdownTable from './BreakdownTable.vue';
import PlanChoices from './PlanChoices.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { reactive, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const store = useMe();
const router = useRouter();
const page = shallowRef<Schemas['EqualizePage'] | null>(null);
const missing = shallowRef<Failure | null>(null);
const failure = shallowRef<Failure | null>(null);
const telling = ref(false);
const busy = ref(false);
const asked = reactive({
  kind: null as Schemas['RunKind'] | null,
  temperature: { typed: '', unit: store.me.temperature },
  pilot: '',
});
const set_to = ref('');
const instrument = ref<'hydrometer' | 'refractometer' | 'digital'>('hydrometer');
let turn = 0;

async function plan(): Promise<void> {
  const mine = ++turn;
  failure.value = null;
  try {
    const fresh = await need(
      api.POST('/api/banks/{id}/equalize', {
        params: { path: { id: props.id } },
        body: {
          kind: asked.kind,
          temperature: asked.temperature.typed ? asked.temperature : null,
          pilot: asked.pilot || null,
        },
      }),
    );
    if (mine !== turn) return;
    page.value = fresh;
    missing.value = null;
    asked.kind = fresh.kind;
    if (!asked.temperature.typed) asked.temperature.typed = fresh.temperature.typed;
    asked.pilot = fresh.pilot ?? '';
  } catch (error) {
    if (mine !== turn) return;
    if (page.value) failure.value = error as Failure;
    else missing.value = error as Failure;
  }
}
void plan();

// Pressing again after a lost answer opens no second run.
const run = uuidv7();
async function open(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await store.save();
    await need(
      api.PUT('/api/runs/{id}', {
        params: { path: { id: run } },
        body: {
          bank: props.id,
          kind: asked.kind ?? 'corrective',
          temperature: asked.temperature,
          pilot: asked.pilot || null,
          instrument: { kind: instrument.value },
          set_to: set_to.value,
        },
      }),
    );
    await router.push(`/runs/${run}`);
  } catch (error) {
    failure.value = error as Failure;
    // Somebody else opened one meanwhile: that one is shown.
    const there = (failure.value.theirs as { run?: string } | null)?.run;
    if (there) await router.push(`/runs/${there}`);
  } finally {
    busy.value = false;
  }
}
const fault = (field: string): string => failure.value?.fields[field] ?? '';
function told(): void {
  telling.value = false;
  void plan();
}
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="plan" />
  <LoadingLines v-else-if="!page" />
  <div v-else class="equalize">
    <WhereLine
      :place="page.site"
      :parts="[page.name, 'equalize', page.description, page.round_day && `round of ${page.round_day}`]"
    >
      <button type="button" class="btn sm" :aria-expanded="telling" @click="telling = !telling">
        Charger and loads
      </button>
      <RouterLink class="btn sm" :to="`/banks/${id}`">Back to the bank</RouterLink>
    </WhereLine>
    <h1><CellWords :text="page.verdict" /></h1>
    <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
    <EquipmentForm
      v-if="telling"
      :bank="id"
      :equipment="page.equipment"
      :version="page.equipment_version"
      @saved="told"
      @close="telling = false"
    />
    <div class="cols">
      <section class="why" aria-label="Wanted or not">
        <h2>Why</h2>
        <p v-for="r in page.reasons" :key="r" class="reason">{{ r }}</p>
        <p v-if="!page.reasons.length" class="reason">Nothing asks for it today.</p>
        <h2>What the houses say</h2>
        <ul class="houses">
          <li v-for="h in page.houses" :key="h.said">
            <ConditionMark :condition="h.wants ? 'watch' : 'steady'" />
            <span>{{ h.said }}<b v-if="h.own"> This bank’s own.</b></span>
          </li>
        </ul>
        <template v-if="page.earlier.length">
          <h2>Runs before</h2>
          <ul class="earlier">
            <li v-for="e in page.earlier" :key="e.id">
              <RouterLink :to="`/runs/${e.id}`">{{ e.day }}</RouterLink>
              <span>{{ e.said }}</span>
              <b v-if="e.outcome">{{ e.outcome }}</b>
            </li>
          </ul>
        </template>
        <p class="small dim basis">{{ page.rule }}</p>
      </section>
      <section v-if="!page.locked" class="plan" aria-label="Plan of the run">
        <PlanChoices
          v-model:kind="asked.kind"
          v-model:temperature="asked.temperature.typed"
          v-model:pilot="asked.pilot"
          :page="page"
          :unit="asked.temperature.unit"
          :fault="fault('temperature')"
          @change="plan"
        />
        <p v-if="page.refused" class="refused" role="alert">
          <ConditionMark condition="act" :size="20" />{{ page.refused }}
        </p>
        <template v-if="page.plan">
          <dl class="figures">
            <div v-for="f in page.plan.figures" :key="f.name">
              <dt>{{ f.name }}</dt>
              <dd>
                <b class="fig">{{ f.value }}</b> {{ f.unit }}
              </dd>
              <dd class="small">{{ f.how }}</dd>
            </div>
          </dl>
          <h2>Loads against {{ page.plan.setpoint }} V</h2>
          <table v-if="page.plan.loads.length" class="plain">
            <thead>
              <tr>
                <th>Load</th>
                <th class="n">Takes up to, V</th>
                <th>Before the run</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in page.plan.loads" :key="l.name">
                <td>{{ l.name }}</td>
                <td class="n">{{ l.highest }}</td>
                <td>
                  <ConditionMark v-if="l.disconnect" condition="act" />
                  {{ l.disconnect ? 'disconnect' : 'may stay' }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else class="small dim">
            No load is named. Name them with the volts they take, or look at each one before you begin.
          </p>
          <template v-if="page.plan.day.length">
            <h2>The day</h2>
            <p v-for="(d, i) in page.plan.day" :key="d" class="day">
              <ConditionMark v-if="i === 0" :condition="page.plan.day_condition" />{{ d }}
            </p>
          </template>
        </template>
      </section>
      <aside v-if="page.plan" class="side">
        <h2>Setpoint</h2>
        <p class="big">
          <b class="fig">{{ page.plan.setpoint }}</b> V
        </p>
        <BreakdownTable :lines="page.plan.breakdown" />
        <p class="small">
          Type <b class="fig">{{ page.plan.typed_compensating }} V</b> into a charger that follows a
          temperature sensor, <b class="fig">{{ page.plan.setpoint }} V</b> into one that does not.
        </p>
        <p v-if="page.plan.charger" class="small charger">
          <ConditionMark :condition="page.plan.charger_condition" />{{ page.plan.charger }}
        </p>
        <h2>Watched by</h2>
        <ul class="watched">
          <li v-for="(w, i) in page.plan.watched" :key="w.cell">
            <b class="fig">{{ w.cell }}</b><span>{{ i ? 'low' : 'pilot' }}</span
            ><span class="fig">{{ w.gravity || 'not read' }}</span>
          </li>
        </ul>
        <template v-if="page.open_run">
          <p class="small">A run is open on this bank.</p>
          <RouterLink class="btn go wide" :to="`/runs/${page.open_run}`">Go on with it</RouterLink>
        </template>
        <FormFrame v-else :failure="failure" elsewhere @submit="open">
          <ChoiceField
            v-model="instrument"
            label="Read with"
            :options="[
              { value: 'hydrometer', label: 'hydrometer, 5 points' },
              { value: 'refractometer', label: 'refractometer, 5 points' },
              { value: 'digital', label: 'digital meter, 1 point' },
            ]"
          />
          <TextField
            v-model="set_to"
            label="Typed into the charger, V"
            figure
            :error="fault('set_to') || fault('pilot') || fault('person')"
          />
          <button type="submit" class="btn go wide" :disabled="busy">Prepare the run</button>
          <p class="small dim">
            Nothing is switched on yet: the checks come first. Stays with it: {{ store.initials }}.
          </p>
        </FormFrame>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 240px;
  gap: 0 24px;
  margin-top: 12px;
}
.plan {
  border-left: 1px solid var(--line);
  padding-left: 22px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 18px;
}
h2 {
  margin: 14px 0 6px;
}
section > h2:first-child,
.side > h2:first-child {
  margin-top: 0;
}
.reason {
  margin-bottom: 6px;
}
.houses li,
.charger,
.day,
.refused {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
.houses li {
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font: var(--t-small);
}
.earlier li {
  display: grid;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font: var(--t-small);
}
.basis {
  margin-top: 12px;
}
.refused {
  color: var(--act-text);
  font-weight: 600;
  margin: 14px 0;
}
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(165px, 1fr));
  gap: 12px 18px;
  margin-top: 14px;
  border-top: 1px solid var(--line);
  padding-top: 12px;
}
.figures dt {
  font: 600 13px/18px var(--text);
}
.figures .fig {
  font: 600 22px/28px var(--mono);
}
.day {
  margin-bottom: 4px;
}
.big .fig {
  font: 600 42px/46px var(--mono);
}
.charger {
  margin-top: 8px;
}
.watched li {
  display: flex;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.watched li span:nth-child(2) {
  flex: 1;
  color: var(--ink-2);
}
form {
  display: grid;
  gap: 10px;
  margin-top: 14px;
}
.wide {
  width: 100%;
  height: 44px;
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: minmax(0, 1fr) 240px;
  }
  .why {
    grid-column: 1 / -1;
    margin-bottom: 16px;
  }
  .plan {
    border-left: 0;
    padding-left: 0;
  }
}
@media (max-width: 720px) {
  .cols {
    display: flex;
    flex-direction: column;
  }
  .plan {
    order: -1;
  }
  .side {
    border-left: 0;
    padding-left: 0;
    order: 0;
    margin-top: 14px;
  }
  .why {
    order: 1;
    margin-top: 18px;
  }
}
</style>
