<script setup lang="ts">
import { api, need, seen, type Failure } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import PickedField from '@/components/form/PickedField.vue';
import RadioField from '@/components/form/RadioField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { computed, ref, shallowRef, watch } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
}>();
const path = { id: props.bank };
const {
  data: own,
  loading,
  failure: missing,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}/model', { params: { path } })));
const model = ref('');
const since = ref<'always' | 'day'>('always');
const from = ref<string | null>('');
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
const kept = ref(false);
const options = computed(() => (own.value?.fitting ?? []).map((m) => ({ value: m.id, label: m.name })));
watch(own, (stands) => (model.value = stands?.model ?? ''));
watch([model, since, from], () => (kept.value = false));

async function exchange(): Promise<void> {
  if (!own.value) return;
  busy.value = true;
  failure.value = null;
  try {
    const body = { model: model.value, from: since.value === 'day' ? (from.value ?? '') : null };
    const params = { path, header: seen(own.value.version) };
    await need(api.POST('/api/banks/{id}/model', { params, body }));
    await load();
    kept.value = true;
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <section aria-labelledby="made-of">
    <h2 id="made-of">What it is made of</h2>
    <LoadingLines v-if="loading && !own" />
    <FailureNote v-else-if="missing" :failure="missing" again @again="load" />
    <FormFrame v-else-if="own" class="form" :failure="failure" asked @submit="exchange">
      <ChoiceField
        v-model="model"
        label="Battery model"
        :options="options"
        hint="those with as many cells in a case, with caps or sealed alike"
        :error="failure?.fields['model']"
      />
      <template v-if="model !== own.model">
        <RadioField
          v-model="since"
          label="Since when"
          :options="[
            { value: 'always', label: 'it was always this one: judge everything anew' },
            { value: 'day', label: 'from a day on: what is before stays as it was judged' },
          ]"
        />
        <PickedField
          v-if="since === 'day'"
          v-model="from"
          label="First day"
          :error="failure?.fields['from']"
        />
        <p class="small">Reports that are closed stay as they were given out.</p>
        <button type="submit" class="btn" :disabled="busy">Give it this model</button>
      </template>
      <FailureNote :failure="failure" />
      <p class="small" role="status">{{ kept ? 'Kept. What it asks for is judged anew.' : '' }}</p>
      <ul v-if="own.former.length" class="small" aria-label="Models it had before">
        <li v-for="(former, i) in own.former" :key="i">{{ former.name }}: {{ former.said }}</li>
      </ul>
    </FormFrame>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  margin-top: 22px;
  padding-top: 12px;
  max-width: 420px;
}
.form {
  display: grid;
  gap: 10px;
  justify-items: stretch;
  margin-top: 8px;
}
.form .btn {
  justify-self: start;
}
ul {
  padding-left: 18px;
}
</style>
