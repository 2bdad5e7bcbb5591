<script setup lang="ts">
import RadioField from '@/components/form/RadioField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextArea from '@/components/form/TextArea.vue';
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { useMe } from '@/stores/me';
import { computed, ref } from 'vue';
import { usePhone } from '@/composables/usePhone';
import CautionList from './CautionList.vue';
import RecheckForm from './RecheckForm.vue';
import TickList from './TickList.vue';
import WeighedShort from './WeighedShort.vue';

const store = useMe();
const phone = usePhone();
const props = defineProps<{
  /** The step. */
  step: StepOf<'close_up'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const note = ref('');
const open = computed(() => props.step.closing.filter((c) => !c.done));
const unfinished = computed(() => props.step.round_open);
const headline = computed(() => {
  if (props.page.closed) return 'This visit is closed.';
  const left = open.value.length;
  const things = left === 1 ? 'One thing' : `${left} things`;
  if (left && props.step.left_as === 'stored') return `${things} to see to before it is stored.`;
  if (left) return `${things} to put back before you leave.`;
  return 'Everything is back as it was. Close the visit.';
});
/** What is not ticked stands on the page once more before it is left so. */
const asked = ref(false);
function close(): void {
  if (open.value.length && !asked.value) asked.value = true;
  else void props.visit.close();
}
async function keep(): Promise<void> {
  if ((await props.visit.say({ kind: 'note', text: note.value })) === null) note.value = '';
}
</script>

<template>
  <h1>{{ headline }}</h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <RadioField
    class="left"
    label="How the bank is left"
    :model-value="step.left_as"
    :options="step.left_choices.map((c) => ({ value: c.how, label: c.said }))"
    :disabled="!visit.open.value || visit.saving.value"
    @update:model-value="visit.say({ kind: 'left_as', how: $event ?? 'in_use' })"
  />
  <p v-if="step.season_wanted" class="small">
    Nobody has said yet when it is used again.
    <RouterLink :to="`/banks/${page.bank}/edit`">Type the days its season opens and closes</RouterLink>.
  </p>
  <TickList
    :ticks="step.closing"
    :visit="visit"
    :entry="(item) => ({ kind: 'closed', item, none_here: false })"
    :missing="(item) => ({ kind: 'closed', item, none_here: true })"
  />
  <WeighedShort v-if="phone" :page="page" />
  <h2>Done on this visit</h2>
  <p class="small">What is ticked here counts for the calendar.</p>
  <TickList
    class="work"
    :ticks="step.work.map((w) => ({ ...w, item: w.work }))"
    :visit="visit"
    :entry="(work) => ({ kind: 'done', work })"
  />
  <RecheckForm :rechecks="page.rechecks" :visit="visit" />
  <h2>Notes for the record and the report</h2>
  <ul class="list">
    <li v-for="n in page.notes" :key="n.entry">
      <p class="grow">
        {{ n.text }} <span class="small dim">{{ n.by }}</span>
      </p>
      <button
        v-if="visit.open.value"
        type="button"
        class="btn sm quiet"
        @click="visit.takeBack(n.entry, 'The note is taken back.')"
      >
        Take back
      </button>
    </li>
  </ul>
  <FormFrame v-if="visit.open.value" class="note" :failure="visit.failure.value" elsewhere @submit="keep">
    <TextArea v-model="note" :rows="2" label="A note" />
    <button type="submit" class="btn" :disabled="!note.trim()">Keep the note</button>
  </FormFrame>
  <template v-if="page.findings.length">
    <h2>What this visit found</h2>
    <FindingList :findings="page.findings" />
  </template>
  <FailureNote :failure="visit.failure.value" />
  <p v-if="unfinished" class="warn">
    A round of this visit is still open: finish it, and it is judged with the visit.
  </p>
  <div v-if="asked && open.length && visit.open.value" class="asking" role="alert">
    <p>Not ticked, and the report will say so:</p>
    <ul>
      <li v-for="c in open" :key="c.item">{{ c.said }}</li>
    </ul>
    <button type="button" class="btn" @click="asked = false">Back to the list</button>
    <button type="button" class="btn" @click="close">Close all the same</button>
  </div>
  <p class="press">
    <a class="btn" :href="`/api/visits/${page.id}/report?person=${store.me.id}`" target="_blank"
      >The report</a
    >
    <button v-if="visit.open.value" type="button" class="btn go" @click="close">Close the visit</button>
    <button v-else type="button" class="btn" @click="visit.reopen()">Open it again</button>
    <RouterLink v-if="page.closed" class="btn go" :to="`/banks/${page.bank}`">To the bank</RouterLink>
  </p>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
.list li {
  display: flex;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
  min-height: 38px;
}
.left {
  margin: 10px 0 6px;
}
.note {
  display: flex;
  gap: 10px;
  align-items: flex-end;
  margin-top: 8px;
}
.note .field {
  flex: 1;
}
.warn {
  color: var(--watch-text);
  margin-top: 10px;
}
.press {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 16px;
  justify-content: flex-end;
}
.asking {
  margin-top: 14px;
}
.asking ul {
  flex: 1 1 100%;
}
.asking li {
  list-style: disc;
  margin-left: 20px;
}
@media (max-width: 720px) {
  .list li {
    min-height: 48px;
  }
  .press .btn {
    flex: 1 1 100%;
  }
}
</style>
