<script setup lang="ts">
import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import MenuButton, { type MenuGroup } from '@/components/ui/MenuButton.vue';
import { useFocusReturn } from '@/composables/useFocusReturn';
import { useUndo } from '@/composables/useUndo';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{
  /** The page of the bank. */
  page: Schemas['BankPage'];
  /** Whether rounds are taken of it. */
  reads: boolean;
}>();
const emit = defineEmits<{
  changed: [];
  failed: [failure: Failure];
  choices: [];
  short: [only: Schemas['Step']];
  job: [job: Schemas['Job']];
}>();
const router = useRouter();
const undo = useUndo();
const sets = ref<Schemas['HouseRules'][]>([]);
const sure = ref(false);
useFocusReturn(sure);
const path = { params: { path: { id: props.page.bank.id } } };

async function known(): Promise<void> {
  if (!sets.value.length) sets.value = await need(api.GET('/api/house-rules')).catch(() => []);
}
async function act(work: () => Promise<unknown>, then: () => void): Promise<void> {
  try {
    await work();
    then();
  } catch (error) {
    emit('failed', error as Failure);
  }
}
const restore = (): Promise<unknown> => need(api.POST('/api/banks/{id}/restore', path));
const archive = (): Promise<void> =>
  act(
    () => need(api.POST('/api/banks/{id}/archive', path)),
    () => {
      void router.push('/banks');
      undo.offer(`${props.page.site.name} is archived.`, async () => {
        await restore();
        await router.push(`/banks/${props.page.bank.id}`);
      });
    },
  );
const remove = (): Promise<void> =>
  act(
    () => need(api.DELETE('/api/banks/{id}', path)),
    () => void router.push('/banks'),
  );
const judgeBy = (rules: string): Promise<void> =>
  act(
    () =>
      need(
        api.PUT('/api/banks/{id}/house-rules', {
          params: { path: { id: props.page.bank.id }, header: seen(props.page.bank.version) },
          body: { rules },
        }),
      ),
    () => emit('changed'),
  );
const to = (place: string): void => void router.push(`/banks/${props.page.bank.id}/${place}`);
const now = (set: Schemas['HouseRules']): string =>
  props.page.bank.rules_key === set.key ? `${set.name}, now` : set.name;
const groups = computed<MenuGroup[]>(() => [
  ...(props.page.open_visit || props.page.bank.archived_at
    ? []
    : [
        {
          title: 'A short visit',
          items: [
            { key: 'short rest_check', label: 'Volts alone' },
            ...(props.page.has_caps ? [{ key: 'short water', label: 'Levels and water alone' }] : []),
            { key: 'short look_over', label: 'Look-over alone' },
          ],
        },
      ]),
  ...(props.page.bank.archived_at
    ? []
    : [
        {
          title: 'A visit for a job',
          items: [
            { key: 'job storage_preparation', label: 'Storage preparation' },
            { key: 'job storage_check', label: 'Storage check' },
            { key: 'job spring_check', label: 'Spring check' },
            { key: 'job replacement', label: 'Replacement' },
          ],
        },
      ]),
  ...(props.reads ? [{ title: 'From paper', items: [{ key: 'notebook', label: 'Notebook years' }] }] : []),
  {
    title: 'To print and carry',
    items: [
      { key: 'sheet', label: 'Blank field sheet' },
      { key: 'calendar', label: 'Its calendar' },
    ],
  },
  {
    title: 'As a file',
    items: [
      { key: 'csv', label: 'Rounds as CSV' },
      { key: 'json', label: 'Everything as JSON' },
    ],
  },
  {
    title: 'Judge by',
    items: [
      ...sets.value.map((s) => ({ key: `rules ${s.key}`, label: now(s), hint: s.suits })),
      { key: 'choices', label: 'Choices of its own' },
    ],
  },
  {
    title: 'This bank',
    items: [
      { key: 'replacements', label: 'Replace or move a battery' },
      { key: 'edit', label: 'Put the description right' },
      props.page.bank.archived_at
        ? { key: 'restore', label: 'Restore' }
        : { key: 'archive', label: 'Archive' },
      ...(props.page.deletable ? [{ key: 'remove', label: 'Delete, nothing is written down' }] : []),
    ],
  },
]);
function choose(key: string): void {
  const [what, which = ''] = key.split(' ');
  const bank = `/api/banks/${props.page.bank.id}`;
  const does: Record<string, () => unknown> = {
    rules: () => judgeBy(which),
    choices: () => emit('choices'),
    short: () => emit('short', which as Schemas['Step']),
    job: () => emit('job', which as Schemas['Job']),
    sheet: () => window.open(`${bank}/field-sheet`, '_blank'),
    calendar: () => window.location.assign(`/api/calendar.ics?bank=${props.page.bank.id}`),
    csv: () => window.location.assign(`${bank}/export.csv`),
    json: () => window.location.assign(`${bank}/export.json`),
    notebook: () => to('notebook'),
    replacements: () => to('batteries?change'),
    edit: () => to('edit'),
    restore: () => act(restore, () => emit('changed')),
    archive,
    remove: () => (sure.value = true),
  };
  does[what!]?.();
}
</script>

<template>
  <MenuButton label="More" :groups="groups" @opened="known" @chosen="choose" />
  <a-modal
    v-model:open="sure"
    title="Delete this bank for good?"
    ok-text="Delete it"
    cancel-text="Leave it"
    @ok="remove"
  >
    <p>
      Nothing is written down of it: no reading, visit, plan or reminder. Its description, its equipment and
      the notes on getting to it are lost.
    </p>
  </a-modal>
</template>
