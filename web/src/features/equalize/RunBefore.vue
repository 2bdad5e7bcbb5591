<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
import type { Run, RunPage } from './useRun';
import ConfirmButton from '@/components/ui/ConfirmButton.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { allowSound } from '@/composables/alarm';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import BreakdownTable from './BreakdownTable.vue';
import RunReading from './RunReading.vue';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
}>();
const router = useRouter();
const leaving = ref<Schemas['BeforeCheck'] | null>(null);
const reason = ref('');
const reading = ref(false);

const confirm = (check: Schemas['BeforeCheck']): void => void props.run.say({ what: 'confirmed', check });
async function skip(check: Schemas['BeforeCheck']): Promise<void> {
  if ((await props.run.say({ what: 'skipped', check, reason: reason.value })) !== null) return;
  leaving.value = null;
  reason.value = '';
}
function begin(): void {
  // The press that begins is also the press that lets this device sound.
  allowSound();
  void props.run.say({ what: 'began' });
}
async function discard(): Promise<void> {
  try {
    await need(api.DELETE('/api/runs/{id}', { params: { path: { id: props.run.id } } }));
    await router.push(`/banks/${props.page.bank}/equalize`);
  } catch (error) {
    const { failure } = props.run;
    failure.value = error as Failure;
  }
}
</script>

<template>
  <div class="before">
    <section aria-label="Before the run">
      <ul>
        <li v-for="c in page.checks" :key="c.check" :class="{ done: c.by }">
          <svg
            v-if="c.by && !c.reason"
            width="22"
            height="22"
            viewBox="0 0 22 22"
            role="img"
            aria-label="confirmed"
          >
            <path d="M3 11.5l5 5.5 11-13" fill="none" stroke="var(--action)" stroke-width="3" />
          </svg>
          <ConditionMark v-else-if="c.reason" condition="watch" :size="22" />
          <span v-else class="open" aria-hidden="true" />
          <div class="what">
            <h3>{{ c.name }}</h3>
            <p class="small">{{ c.what }}</p>
            <p v-if="!c.by && run.failure.value?.fields[c.check]" class="small fault">
              {{ run.failure.value.fields[c.check] }}
            </p>
            <p v-if="c.by" class="small by">{{ c.reason ? `Left out: ${c.reason}. ` : '' }}{{ c.by }}</p>
            <FormFrame
              v-if="leaving === c.check"
              class="skip"
              aria-label="Left out"
              :failure="run.failure.value"
              elsewhere
              @submit="skip(c.check)"
            >
              <TextField
                v-model="reason"
                :maxlength="200"
                label="Why it is left out; the report shows it"
                :error="run.failure.value?.fields.reason"
              />
              <button type="submit" class="btn">Leave it out</button>
              <button type="button" class="btn quiet" @click="leaving = null">Back</button>
            </FormFrame>
          </div>
          <div v-if="leaving !== c.check" class="do">
            <button
              type="button"
              class="btn"
              :class="{ go: !c.by }"
              :aria-label="`Confirm: ${c.name}`"
              :aria-pressed="!!c.by"
              @click="confirm(c.check)"
            >
              {{ c.by && !c.reason ? 'Again' : 'Seen to' }}
            </button>
            <button
              type="button"
              class="btn quiet"
              :aria-label="`Leave out: ${c.name}`"
              @click="((leaving = c.check), (reason = ''))"
            >
              Leave out
            </button>
          </div>
        </li>
      </ul>
    </section>
    <aside>
      <h2>Setpoint</h2>
      <p class="big">
        <b class="fig">{{ page.setpoint }}</b> V
      </p>
      <BreakdownTable :lines="page.breakdown" />
      <p class="small">{{ page.most_amperes }}.</p>
      <h2>First reading</h2>
      <p class="small">
        Read {{ page.watched.map((w) => w.cell).join(', ') || 'volts and temperature' }} before the charger is
        switched: what the run gains is counted from there.
      </p>
      <p v-if="page.readings.length" class="small">
        <b>{{ page.readings.length }} taken.</b>
      </p>
      <RunReading v-if="reading" :run="run" :page="page" @close="reading = false" />
      <button v-else type="button" class="btn wide" @click="reading = true">Enter a reading</button>
      <button type="button" class="btn go wide big-go" :disabled="run.saving.value" @click="begin">
        Begin: the charger is on equalize
      </button>
      <ConfirmButton
        class="quiet"
        question="Throw this run away? Its checks and readings are lost."
        ok="Throw it away"
        cancel="Keep it"
        @sure="discard"
      >
        Not today: throw this run away
      </ConfirmButton>
      <p class="small dim">{{ page.rule_source }}</p>
    </aside>
  </div>
</template>

<style scoped>
.before {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 0 26px;
  margin-top: 12px;
}
li {
  display: flex;
  gap: 14px;
  align-items: flex-start;
  border-top: 1px solid var(--line);
  padding: 11px 0;
}
.what {
  flex: 1;
  min-width: 0;
}
.open {
  flex: none;
  width: 22px;
  height: 22px;
  border: 1.5px solid var(--line-strong);
  border-radius: 50%;
}
.by {
  color: var(--ink-3);
}
.fault {
  color: var(--act-text);
  font-weight: 600;
}
.do {
  display: flex;
  gap: 4px;
}
.skip {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: flex-end;
  margin-top: 6px;
}
.skip .field {
  flex: 1 1 240px;
}
aside {
  border-left: 1px solid var(--line);
  padding-left: 20px;
  display: grid;
  gap: 8px;
  align-content: start;
}
.big .fig {
  font: 600 42px/46px var(--mono);
}
.wide {
  width: 100%;
  height: 44px;
}
.big-go {
  height: 56px;
  margin-top: 8px;
  white-space: normal;
}
@media (max-width: 720px) {
  .before {
    display: block;
  }
  aside {
    border: 0;
    padding: 0;
    margin-top: 18px;
  }
  li {
    flex-wrap: wrap;
  }
  .do {
    width: 100%;
    padding-left: 36px;
  }
  .do .go {
    flex: 1;
  }
}
</style>
