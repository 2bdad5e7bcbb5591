<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useRemote } from '@/composables/useRemote';
import { v7 as uuidv7 } from 'uuid';
import { computed, reactive, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** The page of the bank. */
  page: Schemas['BankPage'];
  /** True to open the form at once. */
  open: boolean;
}>();
const emit = defineEmits<{ changed: []; close: [] }>();
const failure = shallowRef<Failure | null>(null);
const places = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const form = reactive({
  kind: 'replaced' as Schemas['ChangeKind'],
  battery: places.value[0] ?? '',
  other: '',
  day: '',
  used: '',
  serial: '',
  date_code: '',
  reason: '',
});
const shelf = useRemote(() =>
  need(api.GET('/api/banks/{id}/taken-out', { params: { path: { id: props.page.bank.id } } })),
);
const chosen = computed(() => shelf.data.value?.find((b) => b.block === form.used));
/** One on the shelf, as its line in the list. */
const line = (b: Schemas['TakenOut']): string =>
  [`from ${b.stood}, out ${b.out}`, b.serial && `serial ${b.serial}`, b.other_model && b.model]
    .filter(Boolean)
    .join(', ');
let id = uuidv7();
const busy = ref(false);

async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await need(
      api.PUT('/api/banks/{id}/changes/{change}', {
        params: { path: { id: props.page.bank.id, change: id } },
        body: { ...form, used: form.used || null },
      }),
    );
    id = uuidv7();
    form.used = '';
    void shelf.load();
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
    if (failure.value.status === 409) id = uuidv7();
  } finally {
    busy.value = false;
  }
}
async function undo(change: string): Promise<void> {
  failure.value = null;
  try {
    await need(
      api.POST('/api/changes/{id}/undo', {
        params: { path: { id: change } },
      }),
    );
    void shelf.load();
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
const fault = (field: string): string => failure.value?.fields[field] ?? '';
</script>

<template>
  <section class="replacements">
    <h2>Batteries and their replacements</h2>
    <FailureNote :failure="failure && !Object.keys(failure.fields).length ? failure : null" />
    <form v-if="open" class="form" @submit.prevent="save">
      <div class="field">
        <label for="ch-kind">What happened</label>
        <select id="ch-kind" v-model="form.kind" class="text">
          <option value="replaced">one was replaced</option>
          <option value="swapped">two changed places</option>
        </select>
      </div>
      <div class="field">
        <label for="ch-battery">Battery</label>
        <select id="ch-battery" v-model="form.battery" class="text">
          <option v-for="p in places" :key="p">{{ p }}</option>
        </select>
      </div>
      <div v-if="form.kind === 'swapped'" class="field">
        <label for="ch-other">With</label>
        <select id="ch-other" v-model="form.other" class="text">
          <option v-for="p in places.filter((x) => x !== form.battery)" :key="p">{{ p }}</option>
        </select>
        <span class="fault">{{ fault('other') }}</span>
      </div>
      <div class="field">
        <label for="ch-day">Day</label>
        <input id="ch-day" v-model="form.day" class="text mono" type="date" />
        <span class="fault">{{ fault('day') }}</span>
      </div>
      <div v-if="form.kind === 'replaced' && shelf.data.value?.length" class="field">
        <label for="ch-used">What came in</label>
        <select id="ch-used" v-model="form.used" class="text">
          <option value="">a new one</option>
          <option v-for="b in shelf.data.value" :key="b.block" :value="b.block">{{ line(b) }}</option>
        </select>
        <span class="fault">{{ fault('used') }}</span>
        <span v-if="chosen?.other_model" class="small"
          >Another model than this bank’s: its readings are judged by the bank’s figures.</span
        >
      </div>
      <template v-if="form.kind === 'replaced' && !form.used">
        <div class="field">
          <label for="ch-serial">Serial of the new one</label
          ><input id="ch-serial" v-model="form.serial" class="text" maxlength="80" />
        </div>
        <div class="field">
          <label for="ch-code">Date code</label
          ><input id="ch-code" v-model="form.date_code" class="text" maxlength="80" />
        </div>
      </template>
      <div class="field grow">
        <label for="ch-reason">Why</label
        ><input id="ch-reason" v-model="form.reason" class="text" maxlength="80" /><span class="fault">{{
          fault('reason')
        }}</span>
      </div>
      <button type="submit" class="btn go" :disabled="busy">Keep the change</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </form>
    <ul>
      <li v-for="c in page.changes" :key="c.id" :class="{ undone: c.undone_by }">
        <span class="fig">{{ c.day }}</span>
        <span class="grow"
          >{{ c.said }}<template v-if="c.undone_by">, undone by {{ c.undone_by }}</template></span
        >
        <button v-if="c.can_undo" type="button" class="btn sm" @click="undo(c.id)">Undo</button>
      </li>
    </ul>
    <table v-if="page.stood.length" class="plain">
      <thead>
        <tr>
          <th>Place</th>
          <th>From</th>
          <th>Until</th>
          <th>Serial</th>
          <th>Date code</th>
          <th>Block</th>
          <th>Elsewhere</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in page.stood" :key="i">
          <td class="fig">{{ s.battery }}</td>
          <td>{{ s.from || 'the beginning' }}</td>
          <td>{{ s.to || 'now' }}</td>
          <td>{{ s.serial || '–' }}</td>
          <td>{{ s.date_code || '–' }}</td>
          <td class="fig small">{{ s.block.slice(-6) }}</td>
          <td>{{ s.also || '–' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.replacements {
  margin-top: 16px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
  margin: 8px 0;
}
.form .grow {
  flex: 1 1 260px;
}
.form .btn {
  align-self: flex-end;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.undone {
  color: var(--ink-3);
  text-decoration: line-through;
}
</style>
